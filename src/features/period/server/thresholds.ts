import { eq, inArray } from "drizzle-orm";
import { z } from "zod";
import type { PeriodFigures } from "@/core/period/figures";
import { connection } from "@/data/db";
import { teamsUnder } from "@/data/organisation/state";
import { newestEntry } from "@/data/queries/audit";
import { thresholds } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { peopleIn, reachOf } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";
import { FIGURES, type FigureUnit, figureOf, type TeamMetrics } from "../table/figures";

/** A mark that somebody set: what of a figure is still all right. */
export interface Threshold {
	readonly figure: string;
	readonly label: string;
	readonly unit: FigureUnit;
	readonly side: "most" | "least";
	readonly value: number;
}

/** A figure that is past its mark. */
export interface PastMark extends Threshold {
	readonly has: number;
}

/** Gives the mark that holds for a team by the key of a figure: the team's own before everyone's (of no team). */
async function marksOf(team: string): Promise<(figure: string) => typeof thresholds.$inferSelect | undefined> {
	const rows = await connection()
		.db.select()
		.from(thresholds)
		.where(inArray(thresholds.team, [team, ""]));
	const of = (figure: string, whose: string) => rows.find((row) => row.figure === figure && row.team === whose);
	return (figure) => of(figure, team) ?? of(figure, "");
}

const teamOf = ({ whose }: Viewpoint) => (whose.key.startsWith("team:") ? whose.key.slice(5) : "");

/** The figures of a period that are past the marks which hold for the people looked at. */
export async function pastMarks(viewpoint: Viewpoint, figures: PeriodFigures, metrics: TeamMetrics): Promise<PastMark[]> {
	const markOf = await marksOf(teamOf(viewpoint));
	return FIGURES.flatMap(({ key, label, unit, value }) => {
		const [mark, has] = [markOf(key), value(figures, metrics)];
		if (!mark || has === null) return [];
		const past = mark.side === "most" ? has > mark.value : has < mark.value;
		return past ? [{ figure: key, label, unit, side: mark.side, value: mark.value, has }] : [];
	});
}

export interface ThresholdsView {
	readonly team: string;
	/** every figure with the mark it has, if any */
	readonly figures: readonly {
		readonly figure: string;
		readonly label: string;
		readonly unit: FigureUnit;
		readonly side: "most" | "least";
		readonly value: number | null;
		readonly ofAll: boolean;
	}[];
}

/** Every figure with the mark that holds for a team; empty: for everyone. */
export const readThresholds = query("period.thresholds", "readPeriod", async (context: Context, team: string): Promise<ThresholdsView> => {
	demandKnown(context, team);
	const markOf = await marksOf(team);
	return {
		team,
		figures: FIGURES.map(({ key, label, unit, side }) => {
			const mark = markOf(key);
			return { figure: key, label, unit, side: mark?.side ?? side, value: mark?.value ?? null, ofAll: mark !== undefined && mark.team !== team };
		}),
	};
});

const MOST = 1e15;
const input = z.object({
	team: z.string(),
	marks: z
		.array(
			z.object({
				figure: z.string().refine((key) => figureOf(key) !== undefined, "There is no such figure."),
				side: z.enum(["most", "least"]),
				value: z.number("A mark is a number.").min(0, "A mark can’t be negative.").max(MOST, "This mark is too large."),
			}),
		)
		.max(FIGURES.length)
		.refine((marks) => new Set(marks.map(({ figure }) => figure)).size === marks.length, "A figure can have only one mark."),
});

const ACTION = "marks of the period changed";

/** Sets the marks of a team that one stands above, or (ops) of everyone. What isn't named has none. */
export const saveThresholds = command({
	name: "period.saveThresholds",
	right: "setTargets",
	input,
	async run({ context, input: { team, marks }, tx }) {
		demandTeam(context, team);
		const before = await tx.select().from(thresholds).where(eq(thresholds.team, team));
		await tx.delete(thresholds).where(eq(thresholds.team, team));
		if (marks.length) await tx.insert(thresholds).values(marks.map((mark) => ({ ...mark, team })));
		return { result: ([change = 0]) => ({ change }), touched: "nothing", audit: { action: ACTION, subject: team, detail: { before, after: marks } } };
	},
});

/** Brings back the marks that a change replaced. Throws a 409 when they were changed again since. */
export const undoThresholds = command({
	name: "period.undoThresholds",
	right: "setTargets",
	input: z.object({ change: z.number().int() }),
	async run({ context, input: { change }, tx }) {
		const newest = await newestEntry(tx, ACTION);
		if (newest?.id !== change) throw new Fault(409, "Changed since", "The marks were changed again since, so they can’t be undone.");
		const team = newest.subject ?? "";
		demandTeam(context, team);
		const before = newest.detail.before as (typeof thresholds.$inferInsert)[];
		await tx.delete(thresholds).where(eq(thresholds.team, team));
		if (before.length) await tx.insert(thresholds).values(before);
		return { result: {}, touched: "nothing", audit: { action: ACTION, subject: team, detail: { before: newest.detail.after, after: before, how: "undone" } } };
	},
});

/** Throws unless the person reaches all people of a team and of the teams below it, and there are some; the marks of everyone are set by who reaches everyone. */
function demandTeam(context: Context, team: string): void {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	demandKnown(context, team);
	if (reach === null) return;
	const people = team ? [...peopleIn(organisation, teamsUnder(organisation, team))] : [];
	if (!people.length || people.some((person) => !reach.has(person)))
		throw new Fault(403, "Not allowed", team ? `${team} isn’t a team of yours.` : "Only people who see everyone’s deals can set everyone’s marks.");
}

function demandKnown({ organisation }: Context, team: string): void {
	if (team && !organisation.teams.has(team)) throw new Fault(404, "No such team", `No team is called ${team}.`);
}
