"use client";
import { type ReactNode, useState } from "react";
import { Button } from "react-bootstrap";
import type { Give } from "@/features/deals/ui/slots";
import { useMay } from "@/ui/frame/may";
import { GiveDialog } from "./GiveDialog";

interface Props extends Give {
	readonly children: ReactNode;
	readonly variant?: string;
	readonly label?: string;
}

/** Opens the dialog that gives tasks, from wherever it stands; nothing where none may be given. */
export function GiveButton({ children, variant = "outline-primary", label, ...give }: Props) {
	const [open, setOpen] = useState(false);
	if (!useMay("assignTasks")) return null;
	return (
		<>
			<Button size="sm" variant={variant} className="no-print" {...(label ? { "aria-label": label } : {})} onClick={() => setOpen(true)}>
				{children}
			</Button>
			{open && <GiveDialog give={give} onClose={() => setOpen(false)} />}
		</>
	);
}
