"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { money, shortDate } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { SheetView } from "../server/sheetView";

/** Notes what they said to a quote. */
function Answered({ id }: { id: string }) {
	const [answer, setAnswer] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	if (answer === null) {
		return (
			<button type="button" className="remedy d-block ms-auto no-print" onClick={() => setAnswer("")}>
				Record answer …
			</button>
		);
	}
	return (
		<Form
			className="d-flex gap-1 no-print"
			onSubmit={async (event) => {
				event.preventDefault();
				await act(run("sheet.answerQuote", { id, answer }), "Answer saved.", () => run("sheet.answerQuote", { id, answer: null }));
			}}
		>
			<Form.Control
				size="sm"
				autoFocus
				required
				maxLength={500}
				aria-label="Their answer"
				placeholder="their answer"
				value={answer}
				onChange={(event) => setAnswer(event.target.value)}
			/>
			<Button size="sm" type="submit">
				Note
			</Button>
		</Form>
	);
}

/** Notes a quote that went out today. */
function NewQuote({ view }: { view: SheetView }) {
	const [number, setNumber] = useState("");
	const [valid, setValid] = useState("");
	const run = useRun();
	const act = useAct();
	return (
		<Form
			className="step-line no-print"
			aria-label="Add a quote sent today"
			onSubmit={async (event) => {
				event.preventDefault();
				const done = await act(run("sheet.sendQuote", { dealId: view.id, number: number || null, validUntil: valid }), "Quote added.");
				if (done) setNumber((now) => (now === number ? "" : now));
			}}
		>
			<Form.Control
				size="sm"
				aria-label="Number of the quote"
				placeholder="Quote sent today: number"
				maxLength={100}
				value={number}
				onChange={(event) => setNumber(event.target.value)}
			/>
			<DayField size="sm" aria-label="Valid until" min={view.seen} required value={valid} onDay={(day) => setValid(day)} />
			<Button size="sm" variant="outline-primary" type="submit" disabled={!valid}>
				Add
			</Button>
		</Form>
	);
}

/** What is offered, at which price against the list, and how long each quote holds. */
export function ProductsAndQuotes({ view }: { view: SheetView }) {
	return (
		<section>
			<h3>Products and quotes</h3>
			<ul className="rows small-text">
				{view.lines.map((line, i) => {
					const currency = line.currency ?? view.baseCurrency;
					const off = line.list && line.sold !== null && line.sold < line.list ? Math.round((100 * (line.list - line.sold)) / line.list) : 0;
					return (
						<li key={String(i)}>
							<span>
								{line.quantity} × {line.product}
							</span>
							<span className="second text-nowrap">
								{line.sold !== null && money(line.sold, currency)}
								{off > 0 && line.list !== null && (
									<span title={`List price ${money(line.list, currency)}`}>
										{" "}
										<s>{money(line.list, currency)}</s> −{off}%
									</span>
								)}
							</span>
						</li>
					);
				})}
				{view.quotes.map((quote) => {
					const lapsed = quote.valid !== null && quote.valid < view.seen && !quote.answer;
					return (
						<li key={quote.id}>
							<span>
								Quote {quote.number}, sent {shortDate(quote.sent)}
								{quote.amount !== null && <span className="second"> · {money(quote.amount, quote.currency ?? view.baseCurrency)}</span>}
							</span>
							<span className={`text-end ${lapsed ? "worse" : "second"}`}>
								{quote.answer ?? (lapsed ? `lapsed ${shortDate(quote.valid)}` : `valid to ${shortDate(quote.valid)}`)}
								{view.mayEdit && !quote.answer && <Answered id={quote.id} />}
							</span>
						</li>
					);
				})}
			</ul>
			{view.mayEdit && view.status === "open" && <NewQuote view={view} />}
		</section>
	);
}
