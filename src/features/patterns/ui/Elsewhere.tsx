import { PLACE_WORDS } from "@/core/outlook/kindWords";
import { grouped } from "@/ui/format";
import type { OutlookView } from "../server/readOutlook";

/** Deals that are dated elsewhere by place, each with what came of past ones: `131 dated later: 14 of 1 508 such were won in time`. */
export function Elsewhere({ view: { places, elsewhereCount } }: { view: OutlookView }) {
	if (!elsewhereCount) return null;
	return (
		<section aria-label="Deals dated elsewhere" className="mt-2">
			<h3 className="mb-1">{elsewhereCount === 1 ? "1 deal is dated elsewhere" : `${elsewhereCount} deals are dated elsewhere`}</h3>
			<ul className="rows small-text">
				{places
					.filter(({ open }) => open > 0)
					.map(({ place, open, n, won }) => (
						<li key={place}>
							<span>
								{open} {PLACE_WORDS[place]}
							</span>
							<span className="second">{n ? `${won} of ${grouped(n)} such were won in time` : "there were none such"}</span>
						</li>
					))}
			</ul>
		</section>
	);
}
