import { afterAll, beforeAll, expect, test } from "vitest";
import { giveAccounts } from "@/features/accounts/server/editAccounts";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readNews } from "@/features/reaching/server/wishes";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("accounts_given");
	await importAs(small());
	await lookForNews();
});
afterAll(() => database.drop());

const told = async (who: string) => (await readNews(await as(who))).items.map(({ words }) => words);

test("accounts given to another, to those who get and lose them, those of one time as one, and not to the one who gave them", async () => {
	await giveAccounts(await as("boss"), {
		to: [
			{ id: "a1", ownerId: "rep2" },
			{ id: "a2", ownerId: "boss" },
		],
	});
	await lookForNews();
	expect(await lookForNews()).toEqual({ told: 0, mails: 0 });
	expect([await told("rep1"), (await told("rep2")).sort(), await told("boss")]).toEqual([
		["Bo Sable gives Millrace Bread to another"],
		["Bo Sable gives you Millrace Bread", "Bo Sable gives Oat Inn to another"].sort(),
		[],
	]);
	await giveAccounts(await as("boss"), {
		to: [
			{ id: "a1", ownerId: "rep1" },
			{ id: "a2", ownerId: "rep1" },
		],
	});
	await lookForNews();
	expect(await told("rep1")).toContain("Bo Sable gives you Millrace Bread and 1 more account");
});
