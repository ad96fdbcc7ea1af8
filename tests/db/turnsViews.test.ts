import { afterAll, beforeAll, expect, test } from "vitest";
import { generate } from "@/fakes/emberwick/generate";
import { countWaiting, readTurns } from "@/features/accounts/server/readTurns";
import { tileKind } from "@/features/boards/panels";
import { makeBoard } from "@/features/boards/server/boards";
import { tellBoard } from "@/features/boards/server/told";
import { readViews, saveView } from "@/features/deals/server/views";
import { VIEW_SCREENS } from "@/features/deals/table/viewScreens";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("turns_views");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

test("the rail counts the deals on which they wait for us, for the people of the sentence and the day seen", async () => {
	for (const [who, query] of [
		["ruth", {}],
		["helena", { whose: "team:South" }],
		["helena", { seen: "2026-10-15" }],
		["ines", {}],
	] as const) {
		const context = await as(who);
		const viewpoint = resolveViewpoint(context, query);
		const { rows } = await readTurns(context, viewpoint, 5000);
		expect(countWaiting(context, viewpoint)).toBe(rows.filter(({ side, level }) => side === "they" && level !== null).length);
	}
});
test("a view of each screen is kept, shared with the team, and is none of another screen", async () => {
	for (const screen of VIEW_SCREENS) await saveView(await as("ruth"), { screen, name: `Mine of ${screen}`, query: "kind=call", shared: true });
	for (const screen of VIEW_SCREENS) {
		const names = (await readViews(await as("ines"), screen)).map(({ name, sharedWith }) => [name, sharedWith]);
		expect(names).toContainEqual([`Mine of ${screen}`, "North"]);
		expect(names.filter(([name]) => name?.startsWith("Mine of"))).toHaveLength(1);
	}
});
test("a tile shows whose turn it is, and tells it in a mail in the same order", async () => {
	const context = await as("ruth");
	const viewpoint = resolveViewpoint(context, {});
	const { rows, counts } = await readTurns(context, viewpoint, 12);
	expect((await tileKind("turns")?.show(context, viewpoint, {}))?.title).toBe("Whose turn");
	const { id } = await makeBoard(context, { name: "Turns", tiles: [{ id: "t1", kind: "turns", x: 0, y: 0, w: 6, h: 8, title: "", settings: {} }] });
	const told = await tellBoard(await as("ruth"), viewpoint, id);
	expect(told?.parts[0]?.says[0]).toMatch(new RegExp(`^${counts.they} waits? for us`));
	expect(told?.parts[0]?.content?.rows.map((row) => row[1])).toEqual(rows.map(({ name }) => name));
});
