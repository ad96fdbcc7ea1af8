"use client";
import { createContext, type DragEvent, type ReactNode, useContext, useRef, useState } from "react";
import { Button } from "react-bootstrap";
import { IntakeDialog } from "./IntakeDialog";
import type { IntakePlace as Place } from "./useIntake";

/** Files that are logged rather than kept, by their names. */
const LOGGED = /\.(eml|mbox|mbx|ics|vcf)$/i;
const ACCEPT = ".eml,.mbox,.mbx,.ics,.vcf,message/rfc822,application/mbox,text/calendar,text/vcard";

const Context = createContext<((file: File) => void) | null>(null);

interface Props {
	readonly place: Place;
	readonly today: string;
	readonly mayWrite: boolean;
	readonly children: ReactNode;
}

/** A deal or an account on which messages, meetings and people are dropped as files, wherever on its page. */
export function IntakePlace({ place, today, mayWrite, children }: Props) {
	const [file, setFile] = useState<File | null>(null);
	const over = (event: DragEvent) => {
		if (mayWrite && event.dataTransfer.types.includes("Files")) event.preventDefault();
	};
	const drop = (event: DragEvent) => {
		const found = [...event.dataTransfer.files].find(({ name }) => LOGGED.test(name));
		if (!mayWrite || !found || file) return;
		event.preventDefault();
		event.stopPropagation();
		setFile(found);
	};
	return (
		<Context.Provider value={mayWrite ? setFile : null}>
			<div className="intake-place" onDragOver={over} onDropCapture={drop}>
				{children}
			</div>
			{file && <IntakeDialog place={place} file={file} today={today} close={() => setFile(null)} />}
		</Context.Provider>
	);
}

/** Chooses a file of messages, meetings or people to be logged. */
export function IntakeButton() {
	const open = useContext(Context);
	const chooser = useRef<HTMLInputElement>(null);
	if (!open) return null;
	return (
		<>
			<Button
				size="sm"
				variant="link"
				className="p-0 tiny no-print"
				title="Messages (.eml, .mbox), meetings (.ics) or people (.vcf); or drop one on the page"
				onClick={() => chooser.current?.click()}
			>
				Log from a file
			</Button>
			<input
				ref={chooser}
				type="file"
				hidden
				accept={ACCEPT}
				aria-label="File of messages, meetings or people"
				onChange={({ target }) => {
					const [file] = target.files ?? [];
					if (file) open(file);
					target.value = "";
				}}
			/>
		</>
	);
}
