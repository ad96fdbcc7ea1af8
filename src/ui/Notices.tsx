"use client";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";
import { Button, Toast, ToastContainer } from "react-bootstrap";

export interface Notice {
	readonly words: string;
	/** undoes what the notice speaks of, or does what `label` says */
	readonly undo?: () => Promise<void>;
	readonly label?: string;
}

const Context = createContext<(notice: Notice) => void>(() => undefined);
/** Says what was done, with an undo where there is one. */
export const useNotice = () => useContext(Context);

export function Notices({ children }: { children: ReactNode }) {
	const [list, setList] = useState<(Notice & { id: number })[]>([]);
	const say = useCallback((notice: Notice) => setList((now) => [...now.slice(-2), { ...notice, id: Math.random() }]), []);
	// Says that the page has come alive, to whoever drives it by script.
	useEffect(() => {
		document.documentElement.dataset.alive = "true";
	}, []);
	const drop = (id: number) => setList((now) => now.filter((notice) => notice.id !== id));
	return (
		<Context.Provider value={say}>
			{children}
			<ToastContainer position="bottom-center" className="p-3 position-fixed" aria-live="polite">
				{list.map((notice) => (
					<Toast key={notice.id} onClose={() => drop(notice.id)} autohide delay={notice.undo ? 12_000 : 5000}>
						<Toast.Body className="d-flex align-items-center justify-content-between gap-3">
							<span>{notice.words}</span>
							{notice.undo && (
								<Button
									size="sm"
									variant="outline-primary"
									className="bg-body"
									onClick={async () => {
										drop(notice.id);
										await notice.undo?.();
									}}
								>
									{notice.label ?? "Undo"}
								</Button>
							)}
						</Toast.Body>
					</Toast>
				))}
			</ToastContainer>
		</Context.Provider>
	);
}
