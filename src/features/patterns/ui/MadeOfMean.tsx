import { plural } from "@/core/words/grammar";
import { money, shortMoney } from "@/ui/format";
import { DataTable } from "@/ui/parts/table/DataTable";
import type { OutlookView } from "../server/readOutlook";
import { percent } from "./ShareBar";
import { WorkedCase } from "./WorkedCase";

/** The parts of the expected total, which add up to it; and in two sentences how wide the band is, and why. */
export function MadeOfMean({ view }: { view: OutlookView }) {
	const { currency, won, due, elsewhere, fresh, freshCount, mean, dueCount, elsewhereCount, ofTwenty, stretch, common } = view;
	const rows = [
		{ key: "won", label: "Won so far", of: "", amount: won },
		{ key: "due", label: "Due in the period", of: `${plural(dueCount, "deal")}, each with its chance`, amount: due },
		{ key: "elsewhere", label: "Dated elsewhere", of: `${plural(elsewhereCount, "deal")}, each with its chance`, amount: elsewhere },
		{ key: "fresh", label: "Not there yet", of: freshCount ? `${freshCount.toFixed(1)} wins, as in past periods` : "none came in past periods", amount: fresh },
		{ key: "mean", label: "Expected total", of: "", amount: mean, total: true },
	];
	return (
		<section aria-label="How the expected total is made">
			<DataTable
				of="The expected total"
				rows={rows}
				rowKey={({ key }) => key}
				columns={[
					{ key: "part", label: "Part", names: true, className: "fw-normal", cell: ({ label, total }) => (total ? <b>{label}</b> : label) },
					{ key: "of", label: "Of", className: "second small-text", cell: ({ of }) => of },
					{
						key: "amount",
						label: `Amount ${currency}`,
						num: true,
						className: "text-nowrap",
						cell: ({ amount, total }) => (total ? <b>{money(amount, currency)}</b> : money(amount, currency)),
					},
				]}
			/>
			<p className="small-text second mt-2 mb-1">
				In the worst of twenty such periods a 50% deal is a {percent(ofTwenty.worst)} deal, in the best a {percent(ofTwenty.best)} one
				{common !== null && `; ${percent(common)} of the uncertainty is how the whole period goes, which no single deal decides`}.{" "}
				{stretch > 1.005
					? `The band is widened by ${stretch.toFixed(1)}, since past forecasts missed by that much.`
					: "The band isn’t widened: past forecasts missed by no more than it allows for."}{" "}
				The median ({shortMoney(view.middle, currency)}) may differ from the expected total, since large deals pull the mean.
			</p>
			<WorkedCase view={view} />
		</section>
	);
}
