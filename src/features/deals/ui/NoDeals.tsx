import { Button } from "react-bootstrap";
import type { Status } from "../table/statuses";

/** No deal is shown: none fits what was asked, or there is none at all. */
export function NoDeals({ all, due, status, onAll }: { all: number; due: string; status: Status; onAll: () => void }) {
	return (
		<div className="panel empty">
			{all ? (
				<>
					<h2>No deal fits</h2>
					<p>
						{all} deals {status === "open" ? "are due" : `were ${status}`} in this period; none has these words, flags and figures.
					</p>
					<Button variant="outline-primary" onClick={onAll}>
						Show all {all}
					</Button>
				</>
			) : (
				<>
					<h2>No {status} deals here</h2>
					<p>
						{status === "open"
							? `Nobody of this choice has an open deal due in ${due}.`
							: status === "closed"
								? `Nobody of this choice has won or lost a deal in ${due}.`
								: `Nobody of this choice has ${status} a deal in ${due}.`}{" "}
						Choose another period or team in the sentence above.
					</p>
				</>
			)}
		</div>
	);
}
