import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { generate } from "@/fakes/emberwick/generate";
import { TILE_KINDS } from "@/features/boards/panels";
import { changeBoard, listBoards, makeBoard, removeBoard } from "@/features/boards/server/boards";
import { boardReaders, openBoardsFor, openingBoard, openWithBoard } from "@/features/boards/server/openings";
import { readDeals } from "@/features/deals";
import { saveView } from "@/features/deals/server/views";
import { savePerson } from "@/features/people/server/managePeople";
import { listTries } from "@/features/period/server/listTries";
import { removeTry, saveTry } from "@/features/period/server/tries";
import { readTryGround } from "@/features/period/server/tryGround";
import { readTryLater } from "@/features/period/server/tryLater";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("boards");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

const tile = (id: string, kind: string, settings: Record<string, string> = {}, y = 0) => ({ id, kind, x: 0, y, w: 4, h: 4, title: "", settings });

describe("boards", () => {
	test("are made, arranged and shared; of two who arrange one at once the second is told who was first", async () => {
		const made = await makeBoard(await as("ruth"), {
			name: "Mondays",
			tiles: [tile("a", "figure", { figure: "won" }), tile("b", "pace", {}, 0)],
			shared: true,
		});
		expect(made.tiles.map(({ id, y }) => [id, y])).toEqual([
			["a", 0],
			["b", 4],
		]);
		const seen = (await listBoards(await as("ines"))).find(({ id }) => id === made.id);
		expect(seen).toMatchObject({ own: false, by: "Ruth Calloway", sharedWith: "North" });
		expect((await listBoards(await as("tomas"))).map(({ id }) => id)).not.toContain(made.id);
		await changeBoard(await as("ines"), { id: made.id, version: made.version, tiles: [tile("a", "figure", { figure: "gap" })] });
		const late = await faultOf(async () => changeBoard(await as("ruth"), { id: made.id, version: made.version, name: "Mine" }));
		expect(late).toMatchObject({ status: 412, detail: expect.stringContaining("Ines Valdoro changed this board") });
		expect((await listBoards(await as("ruth"))).find(({ id }) => id === made.id)).toMatchObject({ name: "Mondays", version: 2 });
		expect(await wordsOf(async () => changeBoard(await as("ines"), { id: made.id, version: 2, shared: false }))).toContain("Only the person who made a board");
		expect(await faultOf(async () => removeBoard(await as("ines"), { id: made.id }))).toMatchObject({ status: 404 });
		expect(await faultOf(async () => changeBoard(await as("tomas"), { id: made.id, version: 2, name: "Theirs" }))).toMatchObject({ status: 404 });
	});
	test("of somebody who has left stay with the team they were shared with", async () => {
		const made = await makeBoard(await as("maeve"), { name: "Maeve’s", shared: true });
		const maeve = { name: "Maeve Okonjo", email: "maeve@emberwick.example", role: "rep", team: "North", activeFrom: null } as const;
		await savePerson(await as("arno"), { ...maeve, id: "maeve", activeTo: "2026-11-20" });
		expect((await listBoards(await as("ruth"))).map(({ id }) => id)).toContain(made.id);
		await savePerson(await as("arno"), { ...maeve, id: "maeve", activeTo: null });
	});
	test("open the program for whoever chose so, as long as they see it", async () => {
		const made = await makeBoard(await as("ruth"), { name: "First", shared: true });
		await openWithBoard(await as("ines"), { id: made.id });
		expect([await openingBoard(await as("ines")), await openingBoard(await as("ruth"))]).toEqual([made.id, null]);
		await changeBoard(await as("ruth"), { id: made.id, version: 1, shared: false });
		expect(await openingBoard(await as("ines"))).toBeNull();
		expect(await faultOf(async () => openWithBoard(await as("tomas"), { id: made.id }))).toMatchObject({ status: 404 });
		await openWithBoard(await as("ines"), { id: null });
	});
	test("are made the opening page of others by who leads them, and by ops, unless they have chosen one that isn’t shared", async () => {
		const made = await makeBoard(await as("ruth"), { name: "North opens", shared: true });
		const own = await makeBoard(await as("maeve"), { name: "Mine alone" });
		await openWithBoard(await as("maeve"), { id: own.id });
		const opensOf = async (who: string) => (await boardReaders(await as("ruth"), made.id)).find(({ id }) => id === who)?.opens;
		expect([await opensOf("ines"), await opensOf("maeve"), await opensOf("tomas"), await opensOf("ruth")]).toEqual(["usual", "other", undefined, undefined]);
		const { before } = await openBoardsFor(await as("ruth"), { openings: [{ person: "ines", board: made.id }] });
		expect([await openingBoard(await as("ines")), await opensOf("ines")]).toEqual([made.id, "this"]);
		expect(await wordsOf(async () => openBoardsFor(await as("ruth"), { openings: [{ person: "maeve", board: made.id }] }))).toContain("chosen another board");
		expect(await openingBoard(await as("maeve"))).toBe(own.id);
		expect(await faultOf(async () => openBoardsFor(await as("ruth"), { openings: [{ person: "tomas", board: made.id }] }))).toMatchObject({ status: 404 });
		expect(await wordsOf(async () => openBoardsFor(await as("arno"), { openings: [{ person: "tomas", board: made.id }] }))).toContain("can’t see this board");
		expect(await faultOf(async () => openBoardsFor(await as("ines"), { openings: [{ person: "maeve", board: made.id }] }))).toMatchObject({ status: 403 });
		expect(await faultOf(async () => boardReaders(await as("ruth"), own.id))).toMatchObject({ status: 404 });
		await openBoardsFor(await as("arno"), { openings: [...before] });
		expect(await openingBoard(await as("ines"))).toBeNull();
	});
	test("hold at most forty tiles, each named once", async () => {
		const many = Array.from({ length: 41 }, (_, i) => tile(`t${i}`, "text"));
		expect(await wordsOf(async () => makeBoard(await as("ruth"), { name: "Many", tiles: many }))).toContain("at most 40 tiles");
		expect(await wordsOf(async () => makeBoard(await as("ruth"), { name: "Twice", tiles: [tile("t", "text"), tile("t", "text")] }))).toContain("appears twice");
		expect((await makeBoard(await as("ruth"), { name: "Full", tiles: many.slice(1) })).tiles).toHaveLength(40);
	});
	test("show every kind of tile for every role and period, with what it leads to", async () => {
		for (const who of ["ruth", "ines", "arno", "mirela"]) {
			const context = await as(who);
			for (const due of ["2026-Q4", "2026-11-24..2026-11-24", "any", "none"]) {
				const viewpoint = resolveViewpoint(context, { due });
				for (const kind of TILE_KINDS) {
					const settings = Object.fromEntries((await kind.settings(context)).map(({ name, choices }) => [name, choices?.[0]?.value ?? "x"]));
					for (const given of [settings, {}, Object.fromEntries(Object.keys(settings).map((name) => [name, "no such thing"]))]) {
						const view = await kind.show(context, viewpoint, given);
						expect(view.node, `${kind.key} of ${who} in ${due}`).toBeTruthy();
					}
				}
			}
		}
	});
	test("show of a saved view what Deals shows by it: its status, flags and words", async () => {
		const context = await as("ruth");
		const viewpoint = resolveViewpoint(context, { due: "2026-Q4" });
		const counted = async (query: string) => {
			const { id } = await saveView(context, { name: `View ${query}`, query, shared: false });
			const { node } = (await TILE_KINDS.find(({ key }) => key === "view")?.show(context, viewpoint, { view: id })) ?? {};
			return (node as { props: { count: number } }).props.count;
		};
		const open = readDeals(context, viewpoint).rows;
		const carrying = (...codes: string[]) => open.filter(({ flags }) => codes.every((code) => flags.some((flag) => flag.code === code))).length;
		const [one, other] = [...new Set(open.flatMap(({ flags }) => (flags.length > 1 ? flags.map(({ code }) => code) : [])))];
		if (!one || !other) throw new Error("no deal has two flags");
		expect(await counted("")).toBe(open.length);
		expect(await counted("status=won")).toBe(readDeals(context, viewpoint, "won").rows.length);
		expect(await counted("flags=lit")).toBe(open.filter(({ level }) => level !== "calm").length);
		expect(await counted(`flags=${one},${other}&how=all`)).toBe(carrying(one, other));
		expect(await counted("since=lit")).toBe(open.filter(({ newlyLit }) => newlyLit.length).length);
		expect(await counted("text=no+deal+says+this")).toBe(0);
		expect(await counted("f=text.has.no+note+says+this")).toBe(0);
	});
});

describe("tries", () => {
	const win = (field: "category" | "deal", value: string, percent = 100) => ({ whom: { field, value }, what: "win" as const, percent });
	test("start from what is, are kept and shared, and later stand beside what came of their deals", async () => {
		const ruth = await as("ruth");
		const ground = await readTryGround(ruth, resolveViewpoint(ruth, { seen: "2026-10-20" }));
		const first = ground?.deals[0];
		if (!ground || !first) throw new Error("nothing is open");
		expect(ground.deals.reduce((sum, { amount }) => sum + amount, 0)).toBe(ground.real.open.amount);
		const kept = await saveTry(ruth, {
			name: "All commits hold",
			whose: ground.whose,
			due: ground.due,
			moves: [win("category", "commit"), win("deal", "nobody knows")],
			shared: true,
		});
		expect((await listTries(await as("ines"))).map(({ id }) => id)).toContain(kept.id);
		expect((await listTries(await as("tomas"))).map(({ id }) => id)).not.toContain(kept.id);
		// A rep sees of a shared try what it says of their own deals.
		const later = await readTryLater(await as("ines"), kept.id);
		expect(later.deals.map(({ id }) => id)).toContain("story-rack");
		expect(later.deals.map(({ id }) => id)).not.toContain("story-plant");
		const mine = await readTryLater(ruth, kept.id);
		expect(mine.wonThen).toBe(mine.wonNow);
		expect(mine.wonSaid).toBeGreaterThanOrEqual(mine.wonThen);
		expect(mine.deals.every(({ said }) => said === "won")).toBe(true);
		await removeTry(ruth, { id: kept.id });
		expect(await faultOf(() => readTryLater(ruth, kept.id))).toMatchObject({ status: 404 });
	});
	test("that can’t be are refused in words", async () => {
		const save = (moves: unknown, due = "2026-Q4") =>
			wordsOf(async () => saveTry(await as("ruth"), { name: "t", whose: "team:North", due, moves: moves as never }));
		expect(await save([])).toContain("Move something first");
		expect(await save([win("deal", "d", 0)])).toContain("between 1 and 100");
		expect(await save([win("deal", "d")], "any")).toContain("a start and an end");
		expect(await save([win("deal", "d")], "soon")).toContain("must be a quarter");
		expect(await wordsOf(async () => saveTry(await as("ruth"), { name: " ", whose: "team:North", due: "2026-Q4", moves: [win("deal", "d")] }))).toContain(
			"a name",
		);
		expect(await faultOf(async () => saveTry(await as("ruth"), { name: "t", whose: "team:South", due: "2026-Q4", moves: [win("deal", "d")] }))).toMatchObject({
			status: 403,
		});
	});
});
