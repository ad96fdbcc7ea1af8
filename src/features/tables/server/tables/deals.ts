import { ownerIn } from "@/core/bridge/scope";
import type { DealSeen } from "@/core/dealSeen";
import { blockOf, CATEGORIES, dayOrNull, nextStepOf } from "@/core/history/columns";
import { rowOf } from "@/core/inspect";
import { surveyOn } from "@/core/survey";
import { accountsOn, identityOn, outcomeOn } from "@/data/organisation/former";
import type { Account, DealAttributes } from "@/data/organisation/state";
import { type Asked, column, inUnits, outsideTable } from "../table";

interface Source {
	readonly seen: DealSeen;
	readonly name: DealAttributes;
	readonly identity: ReturnType<typeof identityOn>;
	readonly account: Account | undefined;
	readonly asked: Asked;
}

const company = ({ asked }: Source) => asked.organisation.company;
const owner = ({ asked, seen }: Source) => asked.organisation.people[seen.owner];
/** What the version that was seen says. */
const state = (source: Source) => ({ block: blockOf(company(source).history, source.seen.deal), row: rowOf(company(source).history, source.seen) });
const currency = (source: Source): string | null => {
	const { block, row } = state(source);
	return company(source).rules.currencies[block.currency[row] as number] ?? null;
};

const ofState = (read: (block: ReturnType<typeof state>["block"], row: number) => string | number | null) => (source: Source) => {
	const { block, row } = state(source);
	return read(block, row);
};
/** Attention is said of open deals. */
const open =
	(read: (seen: DealSeen) => string | number | null) =>
	({ seen }: Source) =>
		seen.status === "open" ? read(seen) : null;

export const deals = outsideTable<Source>(
	"deals",
	"Every deal as it stood at the end of the day, and what is said of it.",
	[
		column("deal_id", "text", "", ({ name }) => name.id),
		column("deal", "text", "its name", ({ identity }) => identity.name),
		column("account_id", "text", "", ({ identity }) => identity.accountId),
		column("account", "text", "its name", ({ account }) => account?.name ?? null),
		column("kind", "text", "of the account: customer or prospect", ({ account }) => account?.kind ?? null),
		column("industry", "text", "of the account", ({ account }) => account?.industry ?? null),
		column("territory", "text", "of the account", ({ account }) => account?.territory ?? null),
		column("owner_id", "text", "", (source) => owner(source)?.id ?? null),
		column("owner", "text", "the rep’s name", (source) => owner(source)?.name ?? null),
		column("team", "text", "of the owner", (source) => owner(source)?.team ?? null),
		column("source", "text", "where it came from", ({ name }) => name.source),
		column("status", "text", "open, won or lost", ({ seen }) => seen.status),
		column("stage", "text", "", (source) => company(source).rules.stages[source.seen.stageIndex]?.name ?? null),
		column(
			"category",
			"text",
			"commit, best_case, pipeline or left_out",
			ofState((block, row) => CATEGORIES[block.category[row] as number] ?? null),
		),
		column("amount", "decimal", "in its currency, whole units", (source) => {
			const { block, row } = state(source);
			return inUnits(block.amount[row] as number, currency(source));
		}),
		column("currency", "text", "ISO 4217", currency),
		column("amount_base", "decimal", "in the base currency at the rate of the day; 0 where there is no amount", (source) =>
			inUnits(source.seen.amountBase, company(source).rules.rates.base),
		),
		column("base_currency", "text", "ISO 4217", (source) => company(source).rules.rates.base),
		column("close_date", "day", "", ({ seen }) => dayOrNull(seen.close)),
		column(
			"next_step",
			"text",
			"",
			ofState((block, row) => nextStepOf(block, row) || null),
		),
		column(
			"next_step_date",
			"day",
			"",
			ofState((block, row) => dayOrNull(block.nextStepDay[row] as number)),
		),
		column("created_on", "day", "", (source) => company(source).deals[source.seen.deal]?.createdDay ?? null),
		column("closed_on", "day", "", ({ seen }) => dayOrNull(seen.closedDay)),
		column("outcome_reason", "text", "why it was lost", ({ name, asked }) => outcomeOn(name, asked.day).outcomeReason),
		column(
			"attention",
			"integer",
			"0 to 100; nothing where it isn’t open",
			open(({ attention }) => attention.score),
		),
		column(
			"level",
			"text",
			"calm, watch or act; nothing where it isn’t open",
			open(({ attention }) => attention.level),
		),
		column(
			"strength",
			"integer",
			"of its qualification, per cent",
			open(({ qualification }) => qualification.strength),
		),
		column(
			"coverage",
			"integer",
			"of its qualification, per cent",
			open(({ qualification }) => qualification.coverage),
		),
		column(
			"stage_age",
			"integer",
			"working days in its stage",
			open(({ stageAge }) => stageAge),
		),
		column("deal_age", "integer", "working days since it was created", ({ seen }) => seen.dealAge),
		column("pushes", "integer", "how often its close date was moved to a later day", ({ seen }) => seen.trail.pushes),
		column("last_touch", "day", "", ({ seen }) => dayOrNull(seen.contact.lastTouch)),
	],
	function* (asked) {
		const { organisation, scope, day } = asked;
		const accounts = accountsOn(organisation, day);
		for (const block of surveyOn(organisation.company, day).blocks)
			yield block.deals.flatMap((seen): Source[] => {
				const name = seen && organisation.deals[seen.deal];
				if (!name || !ownerIn(scope, seen.owner)) return [];
				const identity = identityOn(name, day);
				return [{ seen, name, identity, account: accounts.get(identity.accountId ?? ""), asked }];
			});
	},
);
