import { readPeriod } from "@/features/period";
import { changeOf, FIGURES, figureOf } from "@/features/period/table/figures";
import { FigureTile, NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** Any figure of the period with its change. */
export const figureTile = tile({
	key: "figure",
	label: "A figure",
	about: "Any figure of the period, with its change since the earlier day",
	size: { w: 3, h: 4 },
	settings: () => [{ name: "figure", label: "Which figure", choices: FIGURES.map(({ key, label }) => ({ value: key, label })) }],
	async show(context, viewpoint, settings) {
		const figure = figureOf(settings.figure ?? "won") ?? FIGURES[0];
		const view = figure && (await readPeriod(context, viewpoint));
		if (!figure || !view) return { title: figure?.label ?? "Figure", opens: null, node: <NoPeriodTile /> };
		const value = figure.value(view.figures, view.teamMetrics);
		return {
			title: `${figure.label.charAt(0).toUpperCase()}${figure.label.slice(1)}`,
			opens: { path: "/period" },
			node: <FigureTile value={value} change={changeOf(figure, view.change)} unit={figure.unit} currency={view.currency} against={view.againstWords} />,
		};
	},
});
