import { expect, test } from "vitest";
import { day, makeCompany, STAGES } from "../../../tests/kit/company";
import { formatDay } from "../time/day";
import { riverColumns, takeDeals } from "./columns";

const [FIRST, LAST] = [day("2026-11-09"), day("2026-11-20")];
const at = (stage: string, date: string, amount = 1000) => ({ at: date, stage, amount });
/** The versions that a river is sent of each deal: `12-11 Terms`. */
const sent = (...deals: Parameters<typeof makeCompany>[0]) => {
	const company = makeCompany(deals);
	const columns = riverColumns(company, [...deals.keys()], FIRST, LAST);
	return deals.map((_, deal) =>
		[...columns.day.slice(columns.offsets[deal], columns.offsets[deal + 1])].map(
			(on, i) => `${formatDay(on).slice(5)} ${STAGES[columns.stage[(columns.offsets[deal] as number) + i] as number] ?? "removed"}`,
		),
	);
};

test("of each deal the version in force as the span begins is sent, those within it, and none after", () => {
	expect(
		sent({
			versions: [
				at("Enquiry", "2026-10-01"),
				at("Survey", "2026-11-05"),
				at("Trial", "2026-11-08"),
				at("Proposal", "2026-11-12"),
				at("Terms", "2026-11-20"),
				at("Won", "2026-11-21"),
			],
		}),
	).toEqual([["11-08 Trial", "11-12 Proposal", "11-20 Terms"]]);
});

test("of one that begins within the span all is sent; of one that begins after it, nothing", () => {
	expect(sent({ versions: [at("Enquiry", "2026-11-09"), at("Survey", "2026-11-10")] }, { versions: [at("Enquiry", "2026-11-23")] })).toEqual([
		["11-09 Enquiry", "11-10 Survey"],
		[],
	]);
});

test("of one that wasn’t open as the span began, its last open version comes too: it says where it may come back from", () => {
	expect(
		sent({
			versions: [at("Enquiry", "2026-10-01"), at("Terms", "2026-10-20"), at("Lost", "2026-10-26"), at("removed", "2026-11-02"), at("Trial", "2026-11-17")],
		}),
	).toEqual([["10-20 Terms", "10-26 Lost", "11-02 removed", "11-17 Trial"]]);
});

test("some of the deals are taken by their new places, each with its own versions", () => {
	const company = makeCompany([
		{ versions: [at("Enquiry", "2026-11-09", 10)] },
		{ versions: [at("Survey", "2026-11-10", 20), at("Terms", "2026-11-12", 25)] },
		{ versions: [at("Trial", "2026-11-11", 30)] },
	]);
	const taken = takeDeals(riverColumns(company, [0, 1, 2], FIRST, LAST), [2, 1]);
	expect([...taken.offsets]).toEqual([0, 1, 3]);
	expect([...taken.amount]).toEqual([3000, 2000, 2500]);
	expect([...taken.stage].map((stage) => STAGES[stage])).toEqual(["Trial", "Survey", "Terms"]);
});
