"use client";
import { useId } from "react";
import { OverlayTrigger, Tooltip } from "react-bootstrap";
import { meaning, TERMS, type TermKey } from "../terms";

/** A word of our own where it is met first: its sentence is shown on pointing at it, on focus, and to screen readers. */
export function Term({ of, children }: { of: TermKey; children?: string }) {
	const id = useId();
	return (
		<OverlayTrigger trigger={["hover", "focus"]} placement="bottom" overlay={<Tooltip id={id}>{meaning(of)}</Tooltip>}>
			<button type="button" className="term" aria-description={meaning(of)}>
				{children ?? TERMS[of].word}
			</button>
		</OverlayTrigger>
	);
}
