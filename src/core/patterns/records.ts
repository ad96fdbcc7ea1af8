import { LIGHTS, type Light } from "../attention/attention";
import type { Scope } from "../bridge/scope";
import type { Company } from "../company";
import { RULES } from "../flags/list";
import { blockOf, type Category } from "../history/columns";
import { amountBaseOf, categoryOf, rowOf } from "../inspect";
import { LEVELS, type Level } from "../qualification/answer";
import { type Share, shareOf } from "../statistics/wilson";
import { dueOver } from "./due";
import type { Looked } from "./quarters";

/** The share not won in time among deals with something, and among those without; lift is the first by the second. */
export interface TrackRecord {
	readonly with: Share;
	readonly without: Share;
	readonly lift: number | null;
}

function recordOf(withK: number, withN: number, k: number, n: number): TrackRecord {
	const [own, others] = [shareOf(withK, withN), shareOf(k - withK, n - withN)];
	return { with: own, without: others, lift: own.share !== null && others.share ? own.share / others.share : null };
}

/** The track record of each flag over some periods: what became of the deals that had it, beside those that didn't. */
export function flagRecords(company: Company, looked: readonly Looked[], scope: Scope = null): (TrackRecord & { readonly code: string })[] {
	const counts = new Map(RULES.map(({ code }) => [code, { k: 0, n: 0 }]));
	let [k, n] = [0, 0];
	for (const { seen, won } of dueOver(company, looked, scope)) {
		n++;
		if (!won) k++;
		for (const { code } of seen.flags) {
			const own = counts.get(code);
			if (!own) continue;
			own.n++;
			if (!won) own.k++;
		}
	}
	return [...counts].map(([code, own]) => ({ code, ...recordOf(own.k, own.n, k, n) }));
}

/** The share not won in time at each level of attention; a deal at rest stands at the level of its own score. */
export function lightRecords(company: Company, looked: readonly Looked[], scope: Scope = null): (Share & { readonly level: Light })[] {
	const counts = new Map(LIGHTS.map((level) => [level, { k: 0, n: 0 }]));
	for (const { seen, won } of dueOver(company, looked, scope)) {
		const own = counts.get(seen.ownLevel) as { k: number; n: number };
		own.n++;
		if (!won) own.k++;
	}
	return [...counts].map(([level, { k, n }]) => ({ level, ...shareOf(k, n) }));
}

/** The share not won in time for each question at each level at which any deal had it, by the id of the question. */
export function answerRecords(
	company: Company,
	looked: readonly Looked[],
	scope: Scope = null,
): (Share & { readonly question: string; readonly level: Level })[] {
	const counts = new Map<string, Map<Level, { k: number; n: number }>>();
	for (const { seen, won } of dueOver(company, looked, scope)) {
		seen.qualification.questions.forEach(({ id }, i) => {
			const level = seen.qualification.standings[i]?.level ?? "unknown";
			const own = counts.get(id) ?? new Map<Level, { k: number; n: number }>();
			counts.set(id, own);
			const at = own.get(level) ?? { k: 0, n: 0 };
			own.set(level, at);
			at.n++;
			if (!won) at.k++;
		});
	}
	return [...counts].flatMap(([question, own]) =>
		LEVELS.flatMap((level) => {
			const at = own.get(level);
			return at ? [{ question, level, ...shareOf(at.k, at.n) }] : [];
		}),
	);
}

/** A share of an amount, in base minor units; of few deals nothing is said, the amounts themselves included: a share could be read off them. */
export interface AmountShare {
	readonly k: number | null;
	readonly n: number | null;
	readonly share: number | null;
}

/** by amount a single large deal decides more, so it takes more of them */
const LEAST_BY_AMOUNT = 10;

export interface Accuracy {
	readonly count: Share;
	readonly amount: AmountShare;
	/** by index of the owner on the day looked at */
	readonly people: readonly { readonly owner: number; readonly count: Share; readonly amount: AmountShare }[];
}

/** How many of the deals in a category came true, by count and by amount (at the rates of the day looked at), and by owner. */
export function accuracyOf(company: Company, looked: readonly Looked[], category: Category, scope: Scope): Accuracy {
	const { history } = company;
	const tally = () => ({ k: 0, n: 0, amountK: 0, amountN: 0 });
	const whole = tally();
	const people = new Map<number, ReturnType<typeof tally>>();
	for (const { seen, won, day } of dueOver(company, looked, scope)) {
		if (categoryOf(company, seen) !== category) continue;
		const amount = amountBaseOf(company, blockOf(history, seen.deal), rowOf(history, seen), day);
		const own = people.get(seen.owner) ?? tally();
		people.set(seen.owner, own);
		for (const into of [whole, own]) {
			into.n++;
			into.amountN += amount;
			if (!won) continue;
			into.k++;
			into.amountK += amount;
		}
	}
	const shares = ({ k, n, amountK, amountN }: ReturnType<typeof tally>) => {
		const count = shareOf(k, n);
		const said = n >= LEAST_BY_AMOUNT;
		return { count, amount: { k: said ? amountK : null, n: said ? amountN : null, share: said && amountN !== 0 ? amountK / amountN : null } };
	};
	return { ...shares(whole), people: [...people].map(([owner, own]) => ({ owner, ...shares(own) })).sort((a, b) => a.owner - b.owner) };
}
