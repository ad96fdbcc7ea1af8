import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BACK_WITHIN, CARE, type CareOf, careOf, NEW_FOR } from "@/core/accounts/care";
import { NO_DAY } from "@/core/time/day";

const TODAY = 20_000;
const calm: CareOf = { isCustomer: true, first: NO_DAY, atRisk: false, since: 10, rhythm: 91, back: NO_DAY };
const why = (change: Partial<CareOf>) => careOf({ ...calm, ...change }, TODAY);

describe("why an account without a deal is worth a look", () => {
	test("nothing, where all is well", () => expect(why({})).toEqual([]));
	test("it is new for thirteen weeks after its first order", () => {
		expect([why({ first: TODAY }), why({ first: TODAY - NEW_FOR }), why({ first: TODAY - NEW_FOR - 1 })]).toEqual([["new"], ["new"], []]);
	});
	test("it is silent after its rhythm, a customer also where nobody was spoken to in a year", () => {
		expect([why({ since: 91 }), why({ since: 92 }), why({ since: null }), why({ since: null, isCustomer: false })]).toEqual([[], ["silent"], ["silent"], []]);
		expect(why({ since: 43, rhythm: 42, isCustomer: false })).toEqual(["silent"]);
	});
	test("what was lost is worth a visit from four weeks before its reason ends", () => {
		expect([why({ back: TODAY + BACK_WITHIN }), why({ back: TODAY + BACK_WITHIN + 1 }), why({ back: TODAY - 400 })]).toEqual([["lost"], [], ["lost"]]);
	});
	test("several at once, in one order; a longer silence never makes one less", () => {
		expect(why({ first: TODAY - 5, atRisk: true, since: 200, back: TODAY })).toEqual([...CARE]);
		fc.assert(
			fc.property(fc.nat(400), fc.nat(100), fc.integer({ min: 1, max: 365 }), (since, more, rhythm) => {
				expect(why({ since: since + more, rhythm }).length).toBeGreaterThanOrEqual(why({ since, rhythm }).length);
			}),
		);
	});
});
