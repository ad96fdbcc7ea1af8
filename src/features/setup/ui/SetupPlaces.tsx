"use client";
import { parseAsString, useQueryState } from "nuqs";
import { type ReactNode, useTransition } from "react";
import { Nav } from "react-bootstrap";
import "./setup.css";

interface Props {
	readonly places: readonly { readonly key: string; readonly words: string }[];
	readonly current: string;
	readonly children: ReactNode;
}

/** The places of Setup, and the one that is looked at; each is read when it is gone to. */
export function SetupPlaces({ places, current, children }: Props) {
	const [waiting, start] = useTransition();
	const [, go] = useQueryState("place", parseAsString.withOptions({ shallow: false, history: "push", startTransition: start }));
	return (
		<>
			<Nav variant="underline" className="mb-3 no-print setup-nav" role="tablist">
				{places.map(({ key, words }) => (
					<Nav.Item key={key}>
						<Nav.Link as="button" type="button" role="tab" aria-selected={key === current} active={key === current} onClick={() => void go(key)}>
							{words}
						</Nav.Link>
					</Nav.Item>
				))}
			</Nav>
			<div className={waiting ? "waiting" : undefined} aria-busy={waiting}>
				{children}
			</div>
		</>
	);
}
