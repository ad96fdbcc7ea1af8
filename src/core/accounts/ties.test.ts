import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { makeCalendar } from "../time/calendar";
import { tieOf, tiesOf, tieWord, waysIn } from "./ties";
import type { AccountTouch } from "./touch";

const calendar = makeCalendar([0, 6], []);
const D = day("2026-11-24");
const seen = { day: D, calendar };
const DAY = 86_400_000;
let nth = 0;
const touch = (ago: number, direction: AccountTouch["direction"], given: Partial<AccountTouch> = {}): AccountTouch => ({
	id: `a${String(nth++).padStart(4, "0")}`,
	day: D - ago,
	at: (D - ago) * DAY + nth,
	kind: "call",
	direction,
	by: 0,
	contacts: ["c"],
	...given,
});
const answers = (touches: readonly AccountTouch[]) => tiesOf([...touches, touch(1, "both", { at: 0 })], seen)[0]?.answers;

describe("a tie", () => {
	test("is the worked example’s: calls of 10, 100 and 370 days ago, a mail of theirs 45 days ago, one of ours today", () => {
		const [tie] = tiesOf([touch(10, "both"), touch(100, "both"), touch(370, "both"), touch(45, "in"), touch(0, "out")], seen);
		expect(tie?.tie).toBeCloseTo(2.09592, 5);
		expect(tie).toMatchObject({ word: "close", conversations: 3, answers: null });
		expect(tie?.last.day).toBe(D);
	});
	test("is worded by its bounds, which belong to the word above them", () => {
		expect([2, 1.99, 0.5, 0.49, 1e-9, 0].map(tieWord)).toEqual(["close", "known", "known", "faint", "faint", null]);
	});
	test("halves in 90 days, adds up, and ends after 365: there is none of what we sent alone", () => {
		fc.assert(
			fc.property(fc.array(fc.integer({ min: 0, max: 364 })), fc.array(fc.integer({ min: 0, max: 364 })), (one, other) => {
				expect(tieOf([...one, ...other])).toBeCloseTo(tieOf(one) + tieOf(other), 9);
				expect(tieOf(one.map((age) => age + 90))).toBeCloseTo(tieOf(one) / 2, 9);
			}),
		);
		expect(tiesOf([touch(364, "both")], seen)).toHaveLength(1);
		for (const none of [[touch(365, "both")], [touch(3, "out")], [touch(-1, "both")], [touch(1, "both", { by: -1 })]]) expect(tiesOf(none, seen)).toEqual([]);
	});
	test("of a contact named twice in one conversation counts once, and each of those named has one", () => {
		const ties = tiesOf([touch(0, "both", { contacts: ["c", "c", "b"] })], seen);
		expect(ties.map(({ contact, tie }) => [contact, tie])).toEqual([
			["b", 1],
			["c", 1],
		]);
	});
});

describe("whether they answer", () => {
	const sent = (ago: number, given: Partial<AccountTouch> = {}) => touch(ago, "out", given);
	test("is told of five touches or more, those answered and those old enough to have been", () => {
		const old = [40, 50, 60, 70, 80].map((ago) => sent(ago));
		expect(answers(old)).toEqual({ k: 0, n: 5 });
		expect(answers(old.slice(1))).toBeNull();
		// Sent ten working days ago and not answered yet: too early to say.
		expect(answers([...old.slice(1), sent(14)])).toBeNull();
		expect(answers([...old.slice(1), sent(15)])).toEqual({ k: 0, n: 5 });
	});
	test("an answer comes later that day or within ten working days, from whichever of ours it is heard", () => {
		const old = [60, 70, 80, 90].map((ago) => sent(ago));
		const with5 = (given: readonly AccountTouch[]) => answers([...old, ...given])?.k;
		const at = (ago: number, hour: number) => ({ at: (D - ago) * DAY + hour });
		expect(with5([sent(40, at(40, 9)), touch(40, "in", at(40, 10))])).toBe(1);
		expect(with5([sent(40, at(40, 9)), touch(40, "in", at(40, 8))])).toBe(0);
		// 15 October 2026 is a Thursday; ten working days later is the 29th.
		expect(with5([sent(40), touch(26, "in", { by: 7 })])).toBe(1);
		expect(with5([sent(40), touch(25, "in", { by: 7 })])).toBe(0);
		expect(with5([sent(40), touch(30, "in", { contacts: ["another"] })])).toBe(0);
		expect(with5([sent(40), sent(30)])).toBe(0);
	});
});

test("ways in: who decides before who doesn’t, then the closest, then the newest, then by ids; of people who work here", () => {
	const ties = tiesOf(
		[
			touch(10, "both", { contacts: ["signs"], by: 1 }),
			touch(1, "both", { contacts: ["likes"], by: 1 }),
			touch(1, "both", { contacts: ["likes"], by: 2, at: (D - 1) * DAY }),
			touch(1, "both", { contacts: ["also"], by: 2, at: (D - 1) * DAY }),
			touch(0, "both", { contacts: ["likes"], by: 3 }),
		],
		seen,
	);
	const ways = waysIn(
		ties,
		(contact) => contact === "signs",
		(person) => (person === 3 ? null : `p${person}`),
	);
	expect(ways.map(({ contact, person }) => `${contact} ${person}`)).toEqual(["signs 1", "likes 1", "also 2", "likes 2"]);
});
