import { expect, test } from "vitest";
import { byCount, labelled, listed, MONTHS, plural, someOf, WEEKDAYS } from "./grammar";

test("a count goes with its noun: one is one, none and many are many", () => {
	expect([0, 1, 2].map((n) => byCount(n, "is", "are"))).toEqual(["are", "is", "are"]);
	expect([plural(0, "deal"), plural(1, "deal"), plural(2, "push", "pushes")]).toEqual(["0 deals", "1 deal", "2 pushes"]);
});

test("a list is joined by and, or by or; a long one is cut, and says by how much", () => {
	expect([listed([]), listed(["a"]), listed(["a", "b"]), listed(["a", "b", "c"]), listed(["a", "b"], "or")]).toEqual([
		"",
		"a",
		"a and b",
		"a, b and c",
		"a or b",
	]);
	expect([someOf([], 2), someOf(["a", "b"], 2), someOf(["a", "b", "c", "d"], 2)]).toEqual(["", "a, b", "a, b and 2 more"]);
});

test("a label that ends a sentence begins the next one; any other has its colon", () => {
	expect([labelled("Money", "assumed"), labelled("Who signs?", "assumed"), labelled("Go!", "now"), labelled("More …", "now")]).toEqual([
		"Money: assumed",
		"Who signs? Assumed",
		"Go! Now",
		"More … Now",
	]);
	expect(labelled("What? Money", "assumed")).toBe("What? Money: assumed");
});

test("months and weekdays have three letters, in their order", () => {
	expect(MONTHS).toEqual(["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]);
	expect(WEEKDAYS).toEqual(["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"]);
});
