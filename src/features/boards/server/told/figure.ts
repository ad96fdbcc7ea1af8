import { readPeriod } from "@/features/period";
import { changeOf, FIGURES, figureOf } from "@/features/period/table/figures";
import { changeWords, figureWords } from "@/features/period/table/figureWords";
import { noPeriod, teller } from "./teller";

/** Any figure of the period with its change. */
export const figureTold = teller({
	key: "figure",
	async tell(context, viewpoint, settings) {
		const figure = figureOf(settings.figure ?? "won") ?? FIGURES[0];
		const view = figure && (await readPeriod(context, viewpoint));
		if (!figure || !view) return noPeriod(figure?.label ?? "Figure");
		const changed = changeWords(changeOf(figure, view.change), figure.unit, view.currency);
		const value = figureWords(figure.value(view.figures, view.teamMetrics), figure.unit, view.currency);
		return {
			title: "",
			says: [`${figure.label.charAt(0).toUpperCase()}${figure.label.slice(1)}: ${value}${changed ? `, ${changed} since ${view.againstWords}` : ""}`],
			path: null,
		};
	},
});
