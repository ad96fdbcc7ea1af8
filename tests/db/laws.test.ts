import fc from "fast-check";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { RULES } from "@/core/flags/list";
import type { FlagSettings } from "@/core/flags/settings";
import { LEVELS } from "@/core/qualification/answer";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { loadOrganisation } from "@/data/organisation/load";
import type { OrganisationState } from "@/data/organisation/state";
import { readAccounts } from "@/features/accounts/server/readAccounts";
import { editDeals, previewEdit } from "@/features/deals/server/editDeals";
import type { Change } from "@/features/deals/server/planEdit";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { previewFlags, readFlagSettings, saveFlags } from "@/features/setup/server/flagSettings";
import { readHabits, saveHabits } from "@/features/setup/server/habitSettings";
import { holdDay } from "@/features/setup/server/holdDay";
import { readQuestions, saveQuestions } from "@/features/setup/server/questionSettings";
import { readStages, saveStages } from "@/features/setup/server/stageSettings";
import { readDeal } from "@/features/sheet/server/readDeal";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("laws");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const few = { numRuns: 6 };
const iso = (offset: number) => formatDay(day("2026-11-25") + offset);
const ids = ["d1", "d2", "d3"];
const anyChange = fc.oneof(
	fc.record({ closeDate: fc.option(fc.integer({ min: 0, max: 120 }).map(iso), { nil: null }), reason: fc.constant("because") }),
	fc.record({ amount: fc.option(fc.integer({ min: 0, max: 5_000_000 }), { nil: null }) }),
	fc.record({ stage: fc.constantFrom("Enquiry", "Survey", "Terms") }),
	fc.record({ category: fc.constantFrom("commit", "best_case", "pipeline", "left_out") }),
	fc.record({ nextStep: fc.constantFrom("Call", "Visit", "“quoted”, and\na line"), nextStepDate: fc.integer({ min: 0, max: 30 }).map(iso) }),
	fc.record({ ownerId: fc.constantFrom("rep1", "rep2", "north", null) }),
	fc.constant({ stage: "Lost", outcomeReason: "Price", competitor: null }),
	fc.record({ stage: fc.constant("Won"), closedOn: fc.constantFrom("2026-11-20", "2026-11-24") }),
) as fc.Arbitrary<Change>;

describe("whatever is done to deals", () => {
	test("versions follow each other without a gap, one is current, and a process keeps what it would read anew", async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(fc.record({ id: fc.constantFrom(...ids), change: anyChange, undo: fc.boolean() }), { minLength: 2, maxLength: 8 }),
				async (steps) => {
					await refill(inspected());
					for (const { id, change, undo } of steps) {
						const { versionId } = await readDeal(await as("boss"), id, undefined);
						const [done] = await editDeals(await as("boss"), { targets: [{ id, versionId }], change });
						if (undo && done?.differences.length) await undoEdit(await as("boss"), { targets: [{ id, versionId: done.versionId }] });
					}
					const { rows } = await connection().pool.query("select deal_id, valid_from, valid_to from deal_versions order by deal_id, valid_from");
					rows.forEach((row, i) => {
						const next = rows[i + 1];
						const follows = next?.deal_id === row.deal_id;
						expect(row.valid_to?.getTime() ?? null).toBe(follows ? next.valid_from.getTime() : null);
					});
					const { organisation } = await as("boss");
					const fresh = await loadOrganisation(connection().db, organisation.revision);
					expect(organisation.company.history).toEqual(fresh.company.history);
					expect(organisation.deals).toEqual(fresh.deals);
				},
			),
			few,
		);
	}, 120_000);

	test("an edit does just what its preview said", async () => {
		await fc.assert(
			fc.asyncProperty(fc.constantFrom(...ids), anyChange, async (id, change) => {
				const { versionId } = await readDeal(await as("boss"), id, undefined);
				const targets = [{ id, versionId }];
				const [preview] = await previewEdit(await as("boss"), { targets, change });
				expect(preview).toMatchObject({ fault: null, needs: {} });
				const [done] = await editDeals(await as("boss"), { targets, change });
				expect(done?.differences).toEqual(preview?.differences);
				expect((await previewEdit(await as("boss"), { targets: [{ id, versionId: done?.versionId ?? 0 }], change }))[0]?.differences).toEqual(
					// What closes a deal a second time changes nothing more; the rest is so already.
					[],
				);
			}),
			{ numRuns: 12 },
		);
	}, 120_000);

	test("an undo on the same day leaves every figure as it was", async () => {
		await fc.assert(
			fc.asyncProperty(fc.constantFrom(...ids), anyChange, async (id, change) => {
				const figures = async () => {
					const { versionId: _, versions: __, ...deal } = await readDeal(await as("boss"), id, undefined);
					return deal;
				};
				const before = await figures();
				const { versionId } = await readDeal(await as("boss"), id, undefined);
				// A win dated to an earlier day is no edit of today.
				const today = "closedOn" in change ? { ...change, closedOn: "2026-11-24" } : change;
				const [done] = await editDeals(await as("boss"), { targets: [{ id, versionId }], change: today });
				if (done?.differences.length) await undoEdit(await as("boss"), { targets: [{ id, versionId: done.versionId }] });
				expect(await figures()).toEqual(before);
			}),
			{ numRuns: 12 },
		);
	}, 120_000);
});

describe("whatever the settings", () => {
	const anySettings = fc
		.array(
			fc.tuple(fc.constantFrom(...RULES), fc.boolean(), fc.double({ min: 0, max: 1, noNaN: true }), fc.option(fc.constantFrom("Enquiry", "Survey", "Terms"))),
			{ maxLength: 5 },
		)
		.map((list) => {
			const flags: Record<string, Record<string, unknown>> = {};
			for (const [rule, on, share, stage] of list) {
				const values = Object.fromEntries(
					Object.entries(rule.settings).map(([name, { min, max, choices }]) => [
						name,
						choices ? choices[Math.floor(share * (choices.length - 1))] : Math.round(min + share * Math.min(200, max - min)),
					]),
				);
				flags[rule.code] = stage ? { stages: { [stage]: { on, ...values } } } : { ...(on ? {} : { on: false }), ...values };
			}
			return flags as FlagSettings;
		});
	test("the preview says what the change does, deal by deal", async () => {
		const byCode = async () => {
			const found = new Map<string, Set<string>>();
			for (const deal of allDeals(await as("ops"), { status: "open" }))
				for (const flag of deal.flags) found.set(flag.code, (found.get(flag.code) ?? new Set()).add(deal.id));
			return found;
		};
		await fc.assert(
			fc.asyncProperty(anySettings, async (flags) => {
				const before = await byCode();
				const effect = await previewFlags(await as("ops"), { flags });
				await saveFlags(await as("ops"), { flags });
				const after = await byCode();
				for (const { code } of RULES) {
					const [was, is] = [before.get(code) ?? new Set<string>(), after.get(code) ?? new Set<string>()];
					const said = effect.flags.find((flag) => flag.code === code);
					expect(new Set(said?.out.map((deal) => deal.id))).toEqual(new Set([...was].filter((id) => !is.has(id))));
					expect(new Set(said?.lights.map((deal) => deal.id))).toEqual(new Set([...is].filter((id) => !was.has(id))));
				}
				// What is kept and saved again stays the same.
				const kept = (await readFlagSettings(await as("ops"))).set;
				await saveFlags(await as("ops"), { flags: kept });
				expect((await readFlagSettings(await as("ops"))).set).toEqual(kept);
			}),
			few,
		);
	}, 120_000);
});

describe("whatever becomes of the questions", () => {
	const anyQuestion = fc.record({
		id: fc.constantFrom("q1", "q2", null),
		area: fc.constantFrom("Need", "People"),
		prompt: fc.constantFrom("What hurts?", "Who signs?", "Which <b>date</b>?"),
		help: fc.constant(null),
		weight: fc.constantFrom(0.5, 1, 7, 1_000_000),
		due: fc.integer({ min: 1, max: 3 }),
		key: fc.boolean(),
	});
	const anyFramework = fc.uniqueArray(anyQuestion, { selector: (q) => q.id ?? Math.random(), minLength: 0, maxLength: 4 });
	test("the figures of earlier days stay, and those of today keep within their bounds", async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(anyFramework, { minLength: 1, maxLength: 3 }),
				fc.constantFrom(...LEVELS.filter((l) => l !== "shown")),
				async (frameworks, level) => {
					const past = async () => allDeals(await as("ops"), { as_of: "2026-11-23" }).map((deal) => [deal.id, deal.qualification]);
					const before = await past();
					for (const framework of frameworks) {
						const known = new Set(readQuestions(await as("ops")).questions.map((q) => q.id));
						await saveQuestions(await as("ops"), { questions: framework.filter((q) => q.id === null || known.has(q.id)) });
					}
					const [first] = readQuestions(await as("ops")).questions;
					if (first) await answerQuestion(await as("boss"), { dealId: "d1", questionId: first.id, level, seenAt: null, anyway: true });
					expect(await past()).toEqual(before);
					for (const { qualification } of allDeals(await as("ops"), {})) {
						for (const figure of [qualification.strength, qualification.coverage, qualification.expected]) {
							expect(figure).toBeGreaterThanOrEqual(0);
							expect(figure).toBeLessThanOrEqual(100);
						}
						expect(qualification.strength).toBeLessThanOrEqual(qualification.coverage);
					}
				},
			),
			few,
		);
	}, 120_000);
});

describe("settings", () => {
	/** Everything that is computed of deals on some days, and what stands beside them. */
	const judged = (organisation: OrganisationState) => {
		const { company, deals, people, accounts, marks, activityKinds, outcomeReasons, contactBands, questionHelp, heldToday } = organisation;
		const { stages, flags, editions, currencies, fiscal } = company.rules;
		const seen = ["2026-11-24", "2026-11-10"].map((on) =>
			surveyOn(company, day(on)).deals.map(
				(deal) =>
					deal && [
						deal.status,
						deal.stageIndex,
						deal.amountBase,
						deal.flags.map((flag) => flag.code),
						deal.attention.score,
						deal.qualification.strength,
						deal.qualification.expected,
					],
			),
		);
		return {
			seen,
			deals,
			people,
			accounts,
			marks,
			activityKinds,
			outcomeReasons,
			contactBands,
			questionHelp,
			heldToday,
			stages,
			flags,
			editions,
			currencies,
			fiscal,
		};
	};
	const wishes: [what: string, wish: () => Promise<unknown>, deals: "kept" | "read anew"][] = [
		["a flag", async () => saveFlags(await as("ops"), { flags: { "no-next-step": { on: false } } }), "kept"],
		["habits", async () => saveHabits(await as("ops"), { ...readHabits(await as("ops")), bands: [5, 20, 50] }), "kept"],
		["the day", async () => holdDay(await as("ops"), { day: "2026-11-26" }), "kept"],
		[
			"a question’s weight",
			async () =>
				saveQuestions(await as("ops"), {
					questions: readQuestions(await as("ops")).questions.map((question) => ({ ...question, weight: question.weight + 4 })),
				}),
			"kept",
		],
		[
			"another question, in front",
			async () => {
				const { questions } = readQuestions(await as("ops"));
				return saveQuestions(await as("ops"), { questions: [{ ...(questions[0] as (typeof questions)[number]), id: null, prompt: "Why now?" }, ...questions] });
			},
			"read anew",
		],
		[
			"a stage’s chance",
			async () =>
				saveStages(await as("ops"), {
					stages: (await readStages(await as("ops"))).map((stage) => (stage.kind === "open" ? { ...stage, probability: 0.5, usualDays: 3 } : stage)),
				}),
			"kept",
		],
		[
			"a stage’s name",
			async () =>
				saveStages(await as("ops"), {
					stages: (await readStages(await as("ops"))).map((stage) => (stage.name === "Survey" ? { ...stage, name: "Look round" } : stage)),
				}),
			"read anew",
		],
	];
	test("are allowed in as if everything had been read anew, mostly without reading the deals", async () => {
		for (const [what, wish, deals] of wishes) {
			await refill(inspected());
			const before = (await as("ops")).organisation;
			surveyOn(before.company, day("2026-11-24"));
			await wish();
			const { organisation } = await as("ops");
			expect(organisation.revision, what).toBeGreaterThan(before.revision);
			expect(organisation.company.deals === before.company.deals, what).toBe(deals === "kept");
			expect(judged(organisation), what).toEqual(judged(await loadOrganisation(connection().db, organisation.revision)));
			expect(judged(organisation), what).not.toEqual(judged(before));
		}
	}, 120_000);
});

describe("sums", () => {
	test("each account lies in one band, and the grid counts gaps the same by deal and by question", async () => {
		const boss = await as("boss");
		const viewpoint = resolveViewpoint(boss, { due: "any" });
		const { accounts, bands } = await readAccounts(boss, viewpoint);
		expect(accounts.every((account) => account.band >= 0 && account.band < bands.length)).toBe(true);
		expect(accounts.reduce((sum, account) => sum + account.openAmount, 0)).toBe(
			allDeals(boss, { status: "open" })
				.filter((deal) => deal.accountId)
				.reduce((sum, deal) => sum + deal.amountBase, 0),
		);
		const { questions, deals } = readEvidence(boss, viewpoint);
		const byQuestion = questions.reduce((sum, question) => sum + question.gaps, 0);
		const byDeal = deals.reduce((sum, deal) => sum + deal.cells.filter((cell) => cell.gap).length, 0);
		expect(byQuestion).toBe(byDeal);
		for (const question of questions) expect(question.gaps).toBeLessThanOrEqual(question.due);
	});
});
