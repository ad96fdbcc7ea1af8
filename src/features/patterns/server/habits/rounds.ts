import type { Day } from "@/core/time/day";
import { callsTold, promisesGiven } from "@/features/rounds";
import { habit, shareRow } from "./habit";

const WINDOW = 365;
/** The day from which rounds are looked at. */
const since = (day: Day) => day - WINDOW + 1;

/** How many of their own words in rounds came true, of the calls on their deals, and how many promises were kept; within a year, of deals that the viewer reaches. */
export const rounds = habit({
	place: "commits",
	async rows({ context, personId, day }) {
		const calls = (await callsTold(context, day)).filter((one) => one.day >= since(day));
		const promises = (await promisesGiven(context, { from: since(day), to: day })).filter(({ fate }) => fate !== "open");
		const split = <T>(list: readonly T[], isOwn: (one: T) => boolean, hit: (one: T) => boolean) =>
			[list.filter(isOwn), list.filter((one) => !isOwn(one))].map((some) => ({ k: some.filter(hit).length, n: some.length })) as [
				{ k: number; n: number },
				{ k: number; n: number },
			];
		const isOf = ({ of }: { readonly of: string | null }) => of === personId;
		return [
			...shareRow(
				"Calls on their deals that came true",
				...split(
					calls.filter(({ came }) => came !== null),
					isOf,
					({ came }) => came === true,
				),
			),
			...shareRow(
				"In commit when called, won in time",
				...split(
					calls.filter(({ inCommit }) => inCommit === true || inCommit === false),
					isOf,
					({ inCommit }) => inCommit === true,
				),
			),
			...shareRow(
				"Promises kept on time",
				...split(
					promises,
					({ whoId }) => whoId === personId,
					({ fate }) => fate === "kept",
				),
			),
		];
	},
});
