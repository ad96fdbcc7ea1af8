import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { RULES } from "@/core/flags/list";
import { editDeals } from "@/features/deals/server/editDeals";
import type { Change } from "@/features/deals/server/planEdit";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { addPerson, removePerson, setRole } from "@/features/sheet/server/dealPeople";
import { answerQuote, sendQuote } from "@/features/sheet/server/dealQuotes";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readSheet } from "@/features/sheet/server/readSheet";
import type { Context } from "@/platform/context";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("clearing");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const TODAY = "2026-11-24";
const boss = () => as("helena");
const sheet = async (id: string) => readSheet(await boss(), id, TODAY, "2026-11-16");
const lit = async (id: string) => (await sheet(id)).flags.map((flag) => flag.code);
const change = (of: Change | ((id: string) => Promise<Change>)) => async (context: Context, id: string) => {
	const { versionId } = await sheet(id);
	await editDeals(context, { targets: [{ id, versionId }], change: typeof of === "function" ? await of(id) : of });
};
const talk =
	(direction: "both" | "out" | "in", contactIds: string[] = []) =>
	async (context: Context, id: string) => {
		await logActivity(context, { dealId: id, kind: "call", direction, subject: "Spoke", contactIds });
	};
const lose = change({ stage: "Lost", outcomeReason: "Price", competitor: null });
const forward = change(async (id) => {
	const { choices, stage } = await sheet(id);
	const at = choices.stages.findIndex((s) => s.name === stage);
	return { stage: choices.stages[at + 1]?.name ?? "" };
});
const answerAll = async (context: Context, id: string) => {
	for (const question of (await sheet(id)).qualification.questions) {
		await answerQuestion(context, { dealId: id, questionId: question.id, level: "heard", seenAt: question.at });
	}
};
const meetAll = async (context: Context, id: string) => {
	for (const other of (await sheet(id)).others) await addPerson(context, { dealId: id, who: { contactId: other.id } });
	if ((await sheet(id)).people.length < 2) await addPerson(context, { dealId: id, who: { name: "Ida Moss", title: null, role: "user" } });
	await talk(
		"both",
		(await sheet(id)).people.map((person) => person.id),
	)(await boss(), id);
};

/** What a manager does about each flag, so that it goes out. */
const CURES: Record<string, (context: Context, id: string) => Promise<void>> = {
	overdue: change({ closeDate: "2027-03-30", reason: "Agreed with the buyer" }),
	"reply-owed": talk("out"),
	unowned: change({ ownerId: "ines" }),
	"shaky-commit": change({ category: "pipeline" }),
	slipped: lose,
	stalled: talk("both"),
	"short-runway": change({ closeDate: "2027-09-30", reason: "More time is needed" }),
	"aging-stage": forward,
	"aging-deal": lose,
	"no-next-step": change({ nextStep: "Call", nextStepDate: "2026-12-01" }),
	"quote-lapsing": async (context, id) => {
		await sendQuote(context, { dealId: id, number: null, validUntil: "2027-01-31" });
	},
	"under-qualified": answerAll,
	"no-signatory": async (context, id) => {
		const { people } = await sheet(id);
		if (people[0]) await setRole(context, { dealId: id, contactId: people[0].id, role: "decision_maker" });
		else await addPerson(context, { dealId: id, who: { name: "Ida Moss", title: "Owner", role: "decision_maker" } });
	},
	"lone-contact": meetAll,
	"gone-quiet": talk("in"),
	"amount-cut": change({ amount: 500_000_000 }),
	"stepped-back": lose,
	"stage-behind": forward,
	"stale-answers": answerAll,
	"blank-fields": async (context, id) => {
		await change({ amount: 100_000, closeDate: "2027-02-26", reason: "A first date" })(context, id);
		await addPerson(await boss(), { dealId: id, who: { name: "Ida Moss", title: null, role: "unknown" } });
	},
};

describe("each of the twenty flags is met in the demo, and clearing its cause puts it out", () => {
	for (const { code } of RULES) {
		test(code, async () => {
			// A stage behind the log is cleared by the stage it belongs to: the survey's deals lie one step before.
			const found = allDeals(await boss(), { flag: code }).filter((deal) => code !== "stage-behind" || deal.stage === "Site survey");
			// A deal in its last stage is moved on by closing it, which other cases do.
			const one = found.find((deal) => deal.stage !== "Terms") ?? found[0];
			expect(one).toBeDefined();
			const id = one?.id ?? "";
			expect(await lit(id)).toContain(code);
			await (CURES[code] as (typeof CURES)[string])(await boss(), id);
			expect(await lit(id)).not.toContain(code);
		});
	}
});

describe("records of a deal", () => {
	test("an answer to a quote puts it to rest; deleted, it lapses again", async () => {
		const id = allDeals(await boss(), { flag: "quote-lapsing" })[0]?.id ?? "";
		const quote = (await sheet(id)).quotes[0]?.id ?? "";
		await answerQuote(await boss(), { id: quote, answer: "They take it" });
		expect((await sheet(id)).quotes[0]?.answer).toBe("They take it");
		expect(await lit(id)).not.toContain("quote-lapsing");
		await answerQuote(await boss(), { id: quote, answer: null });
		expect(await lit(id)).toContain("quote-lapsing");
		expect((await faultOf(async () => sendQuote(await boss(), { dealId: id, number: null, validUntil: "2026-11-23" }))).status).toBe(422);
	});
	test("a person is of the deal’s account, and can be taken off and put back", async () => {
		const view = await sheet("story-rack");
		const strange = (await sheet("story-deck")).people[0]?.id ?? "";
		expect((await faultOf(async () => addPerson(await boss(), { dealId: "story-rack", who: { contactId: strange } }))).status).toBe(404);
		const [first] = view.people;
		await removePerson(await boss(), { dealId: "story-rack", contactId: first?.id ?? "" });
		expect((await sheet("story-rack")).others.map((other) => other.id)).toContain(first?.id);
		await addPerson(await boss(), { dealId: "story-rack", who: { contactId: first?.id ?? "" } });
		expect((await sheet("story-rack")).people).toEqual(view.people);
		expect((await faultOf(async () => setRole(await as("luca"), { dealId: "story-rack", contactId: first?.id ?? "", role: "user" }))).status).toBe(404);
	});
	test("the grid finds the question that hardly anybody asks", async () => {
		const context = await boss();
		const [worst] = readEvidence(context, resolveViewpoint(context, {})).questions;
		expect(worst?.prompt).toBe("What happens if they do nothing?");
		expect((worst?.gaps ?? 0) / (worst?.due ?? 1)).toBeGreaterThan(0.85);
	});
});
