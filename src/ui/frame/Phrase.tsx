"use client";
import type { ReactNode } from "react";
import { Dropdown } from "react-bootstrap";

/** A phrase of a sentence that can be chosen. */
export function Phrase({ label, words, children }: { label: string; words: string; children: ReactNode }) {
	return (
		<Dropdown>
			<Dropdown.Toggle as="button" type="button" className="phrase" aria-label={`${words}: ${label}`}>
				{words}
			</Dropdown.Toggle>
			<Dropdown.Menu>{children}</Dropdown.Menu>
		</Dropdown>
	);
}

/** What a phrase may say instead. */
export function Choice({ on, pick, children }: { on: boolean; pick: () => void; children: ReactNode }) {
	return (
		<Dropdown.Item as="button" type="button" active={on} onClick={pick}>
			{children}
		</Dropdown.Item>
	);
}
