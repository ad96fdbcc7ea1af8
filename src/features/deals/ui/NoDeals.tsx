import { Button } from "react-bootstrap";
import type { Status } from "../table/statuses";

/** No deal is shown: none fits what was asked, or there is none at all. */
export function NoDeals({ all, due, status, onAll }: { all: number; due: string; status: Status; onAll: () => void }) {
	return (
		<div className="panel empty">
			{all ? (
				<>
					<h2>No deals match</h2>
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
							? `None of these people has an open deal due in ${due}.`
							: status === "closed"
								? `None of these people won or lost a deal in ${due}.`
								: `None of these people has ${status} a deal in ${due}.`}{" "}
						Choose another period or team in the sentence above.
					</p>
				</>
			)}
		</div>
	);
}
