import { Modal } from "react-bootstrap";
import { TERMS } from "../terms";
import type { FrameView, KeyView } from "./view";

type Keys = readonly Pick<KeyView, "key" | "label">[];
const EVERYWHERE: Keys = [
	{ key: "/", label: "search deals, accounts, people, words in notes and activities, and places" },
	{ key: "Shift N", label: "back to today, when another day is shown" },
	{ key: "Esc", label: "close a sheet or a window" },
	{ key: "?", label: "this list" },
];

interface Props {
	readonly show: boolean;
	readonly path: string;
	readonly rail: FrameView["rail"];
	readonly keys: readonly KeyView[];
	readonly onHide: () => void;
}

const together = (words: readonly string[]) => `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;

/** The keys that work where one is, and the program’s own terms. */
export function Help({ show, path, rail, keys, onHide }: Props) {
	const here = keys.filter(({ on }) => on !== null && (on.endsWith("/") ? path.startsWith(on) : path === on));
	const go = { key: `G, then ${together(rail.map(({ key }) => key.toUpperCase()))}`, label: `go to ${together(rail.map(({ label }) => label))}` };
	return (
		<Modal show={show} onHide={onHide} size="lg" aria-labelledby="help-title">
			<Modal.Header closeButton>
				<Modal.Title id="help-title">Keys and terms</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{here[0] && <KeyTable name={here[0].where} keys={here} />}
				<KeyTable name="Everywhere" keys={[go, ...EVERYWHERE]} />
				<h3 className="help-terms-title">Terms</h3>
				<dl className="help-terms">
					{Object.values(TERMS).map(({ word, means }) => (
						<div key={word}>
							<dt>{word}</dt>
							<dd>{means}</dd>
						</div>
					))}
				</dl>
			</Modal.Body>
		</Modal>
	);
}

function KeyTable({ name, keys }: { name: string; keys: Keys }) {
	return (
		<table className="table mb-3">
			<caption className="visually-hidden">{name}</caption>
			<thead>
				<tr>
					<th colSpan={2}>{name}</th>
				</tr>
			</thead>
			<tbody>
				{keys.map(({ key, label }) => (
					<tr key={key}>
						<td>
							<span className="kbd">{key}</span>
						</td>
						<td>{label}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
