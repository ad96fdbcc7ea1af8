import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { storedBundle } from "@/features/import/server/exportBundle";
import { removePerson, setRole } from "@/features/sheet/server/dealPeople";
import { readSheet } from "@/features/sheet/server/readSheet";
import type { RawFiles } from "@/formats/bundle/model";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("buying_role");
});
/** c1 signs at both d1 and d2, which two people hold. */
const both = () => inspected({ "deal_contacts.csv": ["deal_id,contact_id", "d1,c1", "d2,c1"] });
beforeEach(() => refill(both()));
afterAll(() => database.drop());

const TODAY = "2026-11-24";
const YESTERDAY = "2026-11-23";
const roleOn = async (dealId: string, seen = TODAY, who = "boss") => (await readSheet(await as(who), dealId, seen, "2026-11-09")).people[0]?.role;
const textOf = (files: RawFiles, name: string) => new TextDecoder().decode(files.get(name));

test("a contact’s part belongs to the deal on which it was set, from that day on", async () => {
	await setRole(await as("rep1"), { dealId: "d1", contactId: "c1", role: "blocker" });
	expect([await roleOn("d1"), await roleOn("d2")]).toEqual(["blocker", "decision_maker"]);
	expect(await roleOn("d1", YESTERDAY)).toBe("decision_maker");
});

test("who is taken off the deal was in their part there before", async () => {
	await setRole(await as("rep1", "2026-11-20"), { dealId: "d1", contactId: "c1", role: "user" });
	await removePerson(await as("rep1"), { dealId: "d1", contactId: "c1" });
	expect(await roleOn("d1")).toBeUndefined();
	expect(await roleOn("d1", YESTERDAY)).toBe("user");
	expect(await roleOn("d1", "2026-11-19")).toBe("decision_maker");
});

test("a part can’t be set on somebody else’s deal by way of a contact that is on both", async () => {
	expect((await faultOf(async () => setRole(await as("rep1"), { dealId: "d2", contactId: "c1", role: "blocker" }))).status).toBe(404);
	expect((await faultOf(async () => setRole(await as("rep1"), { dealId: "d1", contactId: "c3", role: "blocker" }))).status).toBe(404);
});

test("a bundle carries it, and one that says nothing of it leaves it as it is", async () => {
	await setRole(await as("rep1"), { dealId: "d1", contactId: "c1", role: "blocker" });
	const taken = await storedBundle();
	expect(textOf(taken, "deal_contacts.csv").trim().split(/\r?\n/)).toEqual(["deal_id,contact_id,buying_role", "d1,c1,blocker", "d2,c1,"]);
	await importAs(both());
	expect(await roleOn("d1")).toBe("blocker");
	await refill(taken);
	expect([await roleOn("d1"), await roleOn("d2"), await roleOn("d1", YESTERDAY)]).toEqual(["blocker", "decision_maker", "decision_maker"]);
});
