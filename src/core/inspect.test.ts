import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { allOf, day, makeCompany, STAGES, type TestDeal, type TestRules } from "../../tests/kit/company";
import { inspect } from "./inspect";
import { anyOpenOn, normsOn } from "./norms";
import { LEVELS } from "./qualification/answer";

const rules: TestRules = {
	zone: "Europe/Berlin",
	questions: [{ key: true }, { weight: 2, due: 3 }],
	rates: [
		["GBP", "2026-01-01", "1.1637"],
		["KWD", "2026-01-01", "2.8191"],
		["JPY", "2026-01-01", "0.00613"],
	],
};
const iso = (offset: number) => new Date((day("2026-02-02") + offset) * 86_400_000).toISOString().slice(0, 10);
const when = fc.tuple(fc.integer({ min: 0, max: 90 }), fc.integer({ min: 0, max: 23 })).map(([d, h]) => `${iso(d)} ${String(h).padStart(2, "0")}:00`);
const dealOf = fc.record({
	versions: fc.uniqueArray(
		fc.record({
			at: when,
			stage: fc.constantFrom(...STAGES),
			amount: fc.option(fc.integer({ min: 0, max: 900_000 }), { nil: null }),
			currency: fc.constantFrom("EUR", "GBP", "JPY", "KWD"),
			close: fc.option(fc.integer({ min: 0, max: 200 }).map(iso), { nil: null }),
			next: fc.option(fc.integer({ min: 0, max: 120 }).map(iso), { nil: null }),
		}),
		{ selector: (v) => v.at, minLength: 1, maxLength: 6 },
	),
	activities: fc.array(fc.tuple(when, fc.constantFrom("in" as const, "out" as const, "both" as const, "none" as const)), { maxLength: 6 }),
	answers: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 1 }), fc.constantFrom(...LEVELS), when), { selector: (a) => `${a[0]} ${a[2]}`, maxLength: 5 }),
});
const dealsOf = fc.array(dealOf, { minLength: 1, maxLength: 6 });
const see = (deals: TestDeal[], on: string) => {
	const company = makeCompany(deals, rules);
	const norms = normsOn(company, day(on));
	// Flags find their words when asked; all else must be the same.
	return deals.map((_, i) => {
		const seen = inspect(company, i, norms);
		return seen && { ...allOf(seen), flags: seen.flags.map((flag) => ({ code: flag.code, severity: flag.severity, ...flag.words })) };
	});
};
const created = (deals: TestDeal[]) => deals.map((deal) => ({ ...deal, created: iso(0) }));

describe("a deal seen on a day", () => {
	test("never knows the future: what comes after the day changes no figure of it", () => {
		fc.assert(
			fc.property(dealsOf, dealsOf, fc.integer({ min: 0, max: 60 }), (deals, later, offset) => {
				const on = iso(offset);
				const past = created(deals);
				const shifted = (text: string) => `${iso(offset + 1 + Math.abs(day(text.slice(0, 10)) - day(iso(0))))}${text.slice(10)}`;
				const more = past.map((deal, i) => {
					const extra = later[i % later.length] as TestDeal;
					return {
						...deal,
						versions: [...deal.versions.filter((v) => v.at.slice(0, 10) <= on), ...extra.versions.map((v) => ({ ...v, at: shifted(v.at) }))].sort((a, b) =>
							a.at < b.at ? -1 : 1,
						),
						activities: [...(deal.activities ?? []), ...(extra.activities ?? []).map((a): typeof a => [shifted(a[0]), a[1]])],
						answers: [...(deal.answers ?? []), ...(extra.answers ?? []).map((a): typeof a => [a[0], a[1], shifted(a[2])])],
					};
				});
				const known = past.map((deal) => ({ ...deal, versions: deal.versions.filter((v) => v.at.slice(0, 10) <= on) }));
				// Midnight in Berlin is an hour or two before that of the test's instants.
				const clean = (list: TestDeal[]) =>
					list.map((d) => ({
						...d,
						versions: d.versions.filter((v) => !/2[23]:00$/.test(v.at)),
						activities: d.activities?.filter((a) => !/2[23]:00$/.test(a[0])) ?? [],
						answers: d.answers?.filter((a) => !/2[23]:00$/.test(a[2])) ?? [],
					}));
				expect(see(clean(more), on)).toEqual(see(clean(known), on));
			}),
		);
	});
	test("doesn’t depend on the order in which activities, answers and deals come", () => {
		fc.assert(
			fc.property(dealsOf, fc.integer({ min: 0, max: 90 }), (deals, offset) => {
				const straight = created(deals);
				const turned = straight.map((deal) => ({ ...deal, answers: [...(deal.answers ?? [])].reverse() })).reverse();
				const plain = (list: ReturnType<typeof see>) => list.map((s) => s && { ...s, deal: 0 });
				expect(plain(see(turned, iso(offset))).reverse()).toEqual(plain(see(straight, iso(offset))));
			}),
		);
	});
	test("has figures that fit each other", () => {
		fc.assert(
			fc.property(dealsOf, fc.integer({ min: 0, max: 120 }), (deals, offset) => {
				for (const seen of see(created(deals), iso(offset))) {
					if (!seen) continue;
					const { trail, attention, qualification, path } = seen;
					expect(trail.netDays).toBe(trail.points.length ? (trail.points.at(-1)?.close as number) - (trail.points[0]?.close as number) : 0);
					expect(trail.pushes + trail.pulls).toBe(Math.max(0, trail.points.length - 1));
					expect(trail.crossings).toBeLessThanOrEqual(trail.pushes);
					expect(attention.score >= 0 && attention.score <= 100).toBe(true);
					expect(qualification.strength).toBeLessThanOrEqual(qualification.coverage);
					if (seen.status !== "open") expect(seen.flags).toEqual([]);
					else expect(seen.stageAge).toBe(path.visits.at(-1)?.length);
				}
			}),
		);
	});
	test("is measured against the open deals of the whole organisation that day", () => {
		const company = makeCompany(
			[10, 20, 60]
				.map((amount) => ({ versions: [{ at: "2026-03-02", amount }] }))
				.concat({ versions: [{ at: "2026-03-02", amount: 999, stage: "Won" } as never] }),
		);
		expect(normsOn(company, day("2026-03-03"))).toMatchObject({ medianAmount: 2000, bigAmount: 4400 });
		expect([anyOpenOn(company, day("2026-03-03")), anyOpenOn(company, day("2026-03-01"))]).toEqual([true, false]);
		expect(normsOn(company, day("2026-03-01"))).toMatchObject({ medianAmount: 0, bigAmount: 0 });
	});
});
