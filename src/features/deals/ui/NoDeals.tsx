import { Button } from "react-bootstrap";

/** No deal is shown: none fits what was asked, or there is none at all. */
export function NoDeals({ all, due, onAll }: { all: number; due: string; onAll: () => void }) {
	return (
		<div className="panel empty">
			{all ? (
				<>
					<h2>No deal fits</h2>
					<p>{all} deals are due in this period; none has these words, flags and figures.</p>
					<Button variant="outline-primary" onClick={onAll}>
						Show all {all}
					</Button>
				</>
			) : (
				<>
					<h2>No open deals here</h2>
					<p>Nobody of this choice has an open deal due in {due}. Choose another period or team in the sentence above.</p>
				</>
			)}
		</div>
	);
}
