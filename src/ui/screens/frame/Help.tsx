import { Modal } from "react-bootstrap";

const KEYS = [
	["G, then D, C, T, M or S", "go to Deals, Changes, Tasks, My desk or Setup"],
	["/", "search the deals in the list"],
	["J and K", "next and previous deal"],
	["Enter", "open the sheet of the deal"],
	["X", "select the deal"],
	["T", "write a task for the selected deals, or for this one"],
	["Esc", "close the sheet or a window"],
	["?", "this list"],
] as const;

export function Help({ show, onHide }: { show: boolean; onHide: () => void }) {
	return (
		<Modal show={show} onHide={onHide} aria-labelledby="help-title">
			<Modal.Header closeButton>
				<Modal.Title id="help-title">Keys and words</Modal.Title>
			</Modal.Header>
			<Modal.Body>
				<table className="table mb-3">
					<tbody>
						{KEYS.map(([key, what]) => (
							<tr key={key}>
								<td>
									<span className="kbd">{key}</span>
								</td>
								<td>{what}</td>
							</tr>
						))}
					</tbody>
				</table>
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
