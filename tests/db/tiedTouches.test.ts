import { afterAll, beforeAll, expect, test } from "vitest";
import { lastTouches } from "@/features/accounts/server/facts";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("tied_touches");
	const at = "2026-11-18T09:00:00Z";
	await importAs(
		small({
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				`x3,d1,a1,,visit,both,done,${at},,The last of a1,`,
				`x1,d3,a1,,call,both,done,${at},,,`,
				`x2,,a1,,email,out,done,${at},,,`,
				`x9,d3,a1,,note,none,done,${at},,No touch,`,
			],
		}),
	);
});
afterAll(() => database.drop());

test("of several touches at one instant, of any deal or none, the one with the highest id is the last", async () => {
	const { organisation, now } = await as("ops");
	const touches = await lastTouches(organisation, now.day);
	const { deals } = organisation;
	for (const id of ["d1", "d3"]) expect(deals.find((deal) => deal.id === id)?.accountId).toBe("a1");
	expect(touches.get("a1")).toMatchObject({ kind: "visit", deal: "d1", contact: null });
});
