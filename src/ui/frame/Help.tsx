import { Modal } from "react-bootstrap";
import type { FrameView, KeyView } from "./view";

type Keys = readonly Pick<KeyView, "key" | "words">[];
const EVERYWHERE: Keys = [
	{ key: "/", words: "search deals, accounts, people, words in notes and activities, and places" },
	{ key: "Shift N", words: "back to today, when another day is seen" },
	{ key: "Esc", words: "close a sheet or a window" },
	{ key: "?", words: "this list" },
];

interface Props {
	readonly show: boolean;
	readonly path: string;
	readonly rail: FrameView["rail"];
	readonly keys: readonly KeyView[];
	readonly onHide: () => void;
}

const together = (words: readonly string[]) => `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;

/** The keys that work where one is, and the words of the program. */
export function Help({ show, path, rail, keys, onHide }: Props) {
	const here = keys.filter(({ on }) => on !== null && (on.endsWith("/") ? path.startsWith(on) : path === on));
	const go = { key: `G, then ${together(rail.map(({ key }) => key.toUpperCase()))}`, words: `go to ${together(rail.map(({ words }) => words))}` };
	return (
		<Modal show={show} onHide={onHide} size="lg" aria-labelledby="help-title">
			<Modal.Header closeButton>
				<Modal.Title id="help-title">Keys and words</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{here[0] && <KeyTable name={here[0].where} keys={here} />}
				<KeyTable name="Everywhere" keys={[go, ...EVERYWHERE]} />
				<p className="mb-1">
					<b>Lit</b>: attention is at <i>watch</i> (from 20) or <i>act</i> (from 45). <b>Attention</b> is 100 × risk × (½ + ½ stake) × (½ + ½ urgency), and
					every sheet shows the parts.
				</p>
				<p className="mb-1">
					<b>Trail</b>: hollow dots are past close dates, the full one is the present, the dashed line is the period’s end.
				</p>
				<p className="mb-0">
					<b>Evidence</b>: dark is strength (how well we know), pale is coverage (how much was asked), the tick is what the stage expects.
				</p>
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
				{keys.map(({ key, words }) => (
					<tr key={key}>
						<td>
							<span className="kbd">{key}</span>
						</td>
						<td>{words}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
