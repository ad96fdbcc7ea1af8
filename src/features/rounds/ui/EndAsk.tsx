"use client";
import { Button, Modal } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";

interface Props {
	readonly show: boolean;
	readonly walk: boolean;
	/** the names of open deals of which nothing was said */
	readonly unsaid: readonly string[];
	readonly onEnd: () => void;
	readonly onStay: () => void;
}
const SHOWN = 6;

/** Asks before a round is ended of which deals are left. */
export function EndAsk({ show, walk, unsaid, onEnd, onStay }: Props) {
	const said = walk ? "decided on" : "called";
	return (
		<Modal show={show} onHide={onStay} aria-labelledby="end-ask">
			<Modal.Header closeButton>
				<Modal.Title as="h2" id="end-ask">
					{plural(unsaid.length, "deal")} {byCount(unsaid.length, "isn’t", "aren’t")} {said}
				</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				<p className="mb-0">
					{unsaid.slice(0, SHOWN).join(", ")}
					{unsaid.length > SHOWN && ` and ${unsaid.length - SHOWN} more`}. The minutes will show that {byCount(unsaid.length, "it was", "they were")} not {said}
					.
				</p>
			</Modal.Body>
			<Modal.Footer>
				<Button variant="outline-primary" onClick={onEnd}>
					End anyway
				</Button>
				<Button autoFocus onClick={onStay}>
					Continue with {byCount(unsaid.length, "it", "the first")}
				</Button>
			</Modal.Footer>
		</Modal>
	);
}
