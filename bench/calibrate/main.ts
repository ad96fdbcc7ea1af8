import { parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { teamsUnder } from "@/data/organisation/state";
import { tableOf } from "../measure";
import { report } from "../report";
import { companyFor, RECIPES, SPREADS, type SpreadName } from "./company";
import { DISTANCES, type Forecast, foretellAll, RULES } from "./foretell";
import { mean } from "./scores";

// npm run calibrate: foretells the quarters of twelve made-up companies, each from those before it alone, and says how often and how well that held.
const today = parseDay(process.env.PORCH_LAMP_TODAY ?? "") as number;
const organisation = await currentOrganisation(connection().db);
const began = performance.now();
const all: (Forecast & { readonly spread: SpreadName; readonly scale: number })[] = [];
for (const recipe of RECIPES) {
	process.stderr.write(`  ${recipe.size} deals, quarters ${recipe.spread === "none" ? "alike" : `${recipe.spread}ly apart`} …\n`);
	const company = companyFor(organisation.company, organisation, recipe, today);
	const teams = [...organisation.teams].flatMap(([team, parent]) => {
		const under = teamsUnder(organisation, team);
		return parent === null ? [] : [new Set(organisation.people.flatMap((person, i) => (person.team !== null && under.has(person.team) ? [i] : [])))];
	});
	const made = foretellAll(company, [null, ...teams], today);
	// So that a large company doesn't count for more than a small one.
	const scale = mean(made.filter(({ everyone }) => everyone).map(({ came }) => came)) ?? 1;
	const ofTeams = mean(made.filter(({ everyone }) => !everyone).map(({ came }) => came)) ?? 1;
	all.push(...made.map((one) => ({ ...one, spread: recipe.spread, scale: one.everyone ? scale : ofTeams })));
}

const percent = (part: number | null) => (part === null ? "–" : `${(100 * part).toFixed(0)}%`);
const points = (value: number | null) => (value === null ? "–" : (100 * value).toFixed(1));
const inside = (list: readonly Forecast[]) => mean(list.map(({ low, high, came }) => Number(came >= low && came <= high)));
const scored = (list: typeof all, score: (one: (typeof all)[number]) => number | null) =>
	mean(
		list.flatMap((one) => {
			const value = score(one);
			return value === null ? [] : [value / one.scale];
		}),
	);

const whose = [true, false].flatMap((everyone) => DISTANCES.map((distance) => ({ everyone, distance })));
const rows = whose.map(({ everyone, distance }) => {
	const list = all.filter((one) => one.everyone === everyone && one.distance === distance);
	return [
		everyone ? "everyone" : "a team",
		`${distance}`,
		`${list.length}`,
		percent(inside(list)),
		points(scored(list, (one) => one.interval)),
		points(scored(list, (one) => one.crps)),
		...RULES.map((rule) => points(scored(list, (one) => one.off[rule]))),
	];
});
const spreads = (Object.keys(SPREADS) as SpreadName[]).map((spread) => {
	const of = (everyone: boolean) => all.filter((one) => one.spread === spread && one.everyone === everyone);
	return [spread, `${SPREADS[spread]}`, percent(inside(of(true))), percent(inside(of(false)))];
});
const deals = all.flatMap((one) => one.deals);
const brier = (chance: (deal: (typeof deals)[number]) => number) => mean(deals.map((deal) => (chance(deal) - Number(deal.won)) ** 2))?.toFixed(4) ?? "–";
const tenths = Array.from({ length: 10 }, (_, i) => deals.filter(({ chance }) => Math.min(9, Math.floor(chance * 10)) === i));

report(
	"calibration",
	`${all.length} forecasts of ${RECIPES.length} companies, their last quarters, each from the quarters before it alone; made in ${Math.round((performance.now() - began) / 1000)} s.

${tableOf(["whose", "working days before the end", "forecasts", "in the band (80% are meant)", "interval score", "CRPS", ...RULES], rows)}

Scores and errors in hundredths of what such a quarter brings on average; the smaller, the better. Of a plain rule, which says one number, the CRPS is its error.

${tableOf(["quarters go apart", "log odds", "everyone’s in the band", "teams’ in the band"], spreads)}

Brier score of ${deals.length} due deals: ${brier(({ chance }) => chance)} by the outlook’s chances, ${brier(({ stage }) => stage)} by the stages’ own.

${tableOf(
	["chance", "deals", "chance, mean", "won"],
	tenths.map((list, i) => [
		`${i * 10} to ${(i + 1) * 10}%`,
		`${list.length}`,
		percent(mean(list.map(({ chance }) => chance))),
		percent(mean(list.map(({ won }) => Number(won)))),
	]),
)}
`,
	"docs/outlook.md",
);
process.exit(0);
