import { Modal } from "react-bootstrap";

type Keys = readonly (readonly [key: string, what: string])[];
const EVERYWHERE: Keys = [
	["G, then D, E, C, T, M, A or S", "go to Deals, Evidence, Changes, Tasks, My desk, Accounts or Setup"],
	["/", "search deals, accounts, people, words in notes and activities, and places"],
	["Shift N", "back to today, when another day is seen"],
	["Esc", "close a sheet or a window"],
	["?", "this list"],
];
const LIST: Keys = [
	["J and K", "next and previous deal"],
	["Enter", "open the sheet of the deal"],
	["X", "select the deal"],
	["T", "write a task for the selected deals, or for this one"],
	["E", "change the selected deals, or this one"],
	["Shift and a click on a header", "sort by it as well"],
];
const SHEET: Keys = [
	["E", "change a field of the deal"],
	["N", "write a note"],
	["T", "give a task"],
	["Up and Down, on a question", "the question before and after"],
	["0 to 4, on a question", "answer it: unknown, assumed, heard, shown, against us"],
	["Ctrl Enter", "send the note"],
];

/** The keys that work where one is, and the words of the program. */
export function Help({ show, path, onHide }: { show: boolean; path: string; onHide: () => void }) {
	const here = path === "/deals" ? { name: "In the list of deals", keys: LIST } : path.startsWith("/deals/") ? { name: "On a sheet", keys: SHEET } : null;
	return (
		<Modal show={show} onHide={onHide} size="lg" aria-labelledby="help-title">
			<Modal.Header closeButton>
				<Modal.Title id="help-title">Keys and words</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				{here && <KeyTable name={here.name} keys={here.keys} />}
				<KeyTable name="Everywhere" keys={EVERYWHERE} />
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
				{keys.map(([key, what]) => (
					<tr key={key}>
						<td>
							<span className="kbd">{key}</span>
						</td>
						<td>{what}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
