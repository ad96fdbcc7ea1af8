import type { SheetView } from "@/usecases/sheet/readSheet";
import { money, shortDate } from "../../format";

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
							<span className={`text-nowrap ${lapsed ? "worse" : "second"}`}>
								{quote.answer ?? (lapsed ? `lapsed ${shortDate(quote.valid)}` : `valid to ${shortDate(quote.valid)}`)}
							</span>
						</li>
					);
				})}
			</ul>
		</section>
	);
}
