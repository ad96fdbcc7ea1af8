import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { editDeals } from "@/features/deals/server/editDeals";
import { readBrief } from "@/features/rounds/server/readBrief";
import { readDeal } from "@/features/sheet/server/readDeal";
import { as, freshDatabase, importAs } from "../kit/database";
import { told } from "../kit/toldDeal";

// What a brief tells of a deal that has something of everything, line by line, and of one that has nothing.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("brief_told");
	await importAs(told);
});
afterAll(() => database.drop());

const parts = async (id: string) => {
	const brief = await readBrief(await as("boss"), id);
	return Object.fromEntries(
		brief.parts.map(({ heading, lines, none }) => [heading, lines.length ? lines.map(({ words, source }) => `${words} [${source}]`) : none]),
	);
};

describe("a brief", () => {
	test("tells each thing once, with where it is stored", async () => {
		expect(await parts("d1")).toEqual({
			Overview: [
				"Deck ovens for Millrace Bread, customer: €0, due 18 Dec. [the deal]",
				"In Survey since 10 Nov, opened 2 Nov; its rep says best case. [the deal’s versions]",
				"It came by Fair. [the deal]",
				"Its date was pushed once, 17 calendar days in all. [its close dates]",
			],
			People: [
				"Ada Holm, Owner; last spoken to 18 Nov. [people on the deal]",
				"Ben Rye, Baker (champion); last spoken to 18 Nov. [people on the deal]",
				"Cy Dale, Head; never spoken to. [people on the deal]",
				"Di Moss; never spoken to. [people on the deal]",
				"Nobody here is known as the signatory. [people on the deal]",
			],
			Contact: [
				"1 contact in all, 1 in the last 90 days. [its activities]",
				"Last on 18 Nov, 4 working days ago. [its activities]",
				"They have been waiting for us since 18 Nov. [its activities]",
				"Planned: Visit: See the hall, 1 Dec. [planned activities]",
			],
			"Latest notes": ["“How much is it?” [email by Ada Holm, Ben Rye, 18 Nov]"],
			"Known answers": ["What hurts? Against us, “They like theirs” [answer of 12 Nov]"],
			"Open questions": "Every question has an answer.",
			Agreed: ["Next step: Visit, 20 Nov. [the deal]", "Done: Price agreed, 20 Nov. [the close plan]"],
			Due: [
				"Ask again (Rae), 20 Nov, overdue. [a task]",
				"Board decides (theirs), 19 Nov, overdue. [the close plan]",
				"Papers signed (ours), 24 Nov. [the close plan]",
				"Ovens ordered (ours), no day. [the close plan]",
			],
			Purchases: [
				"2026: no product named, 1 for €10. [orders]",
				"2026: Tray, 1 for €7. [orders]",
				"2025: Mixer, 1 for €900. [orders]",
				"2025: Oven, 2 for €150.50. [orders]",
				"Proof room, €900: won 4 May. [its other deals]",
				"Slicer, €70: lost 2 Jun. [its other deals]",
				"No name, €50: lost 1 Jun. [its other deals]",
			],
			"Next questions and steps": [
				"Answer what they asked. They wrote or called on 18 Nov, 4 working days ago, and nobody answered. [a flag’s remedy]",
				"Ask the buyer: What hurts? 1 key question open, strength 0 where 67 is expected. [a flag’s remedy]",
				"Fill in the amount. There is no amount. [a flag’s remedy]",
				"Ask: What hurts? [a question due by this stage]",
			],
		});
	});
	test("says of what there is nothing that there is nothing", async () => {
		expect(await parts("d2")).toMatchObject({
			Overview: [
				"Mixers for Oat Inn, prospect: €500, due 10 Dec. [the deal]",
				"In Enquiry since 3 Nov, opened 3 Nov; its rep says pipeline. [the deal’s versions]",
				"It came by Web. [the deal]",
			],
			People: ["Nobody here is known as the signatory. [people on the deal]", "Nobody here is known as the champion. [people on the deal]"],
			Contact: "No contact yet.",
			"Latest notes": "No notes, and no messages from them.",
			"Known answers": "Nothing was heard from them yet.",
			"Open questions": ["What hurts? Unknown, and due by this stage [no answer]"],
			Agreed: "Nothing is written down.",
			Due: "Nothing is due.",
			Purchases: ["2026: Oven, 1 for €999. [orders]"],
		});
	});
	test("of a deal that is won says so, and asks for nothing", async () => {
		const brief = await readBrief(await as("boss"), "d4");
		expect(brief.headline).toBe("This deal is won.");
		const won = await parts("d4");
		expect(won.Overview?.slice(1, 2)).toEqual(["It is won, opened 2 Mar. [the deal’s versions]"]);
		expect(won["Next questions and steps"]).toBe("Nothing presses.");
	});
	test("is a text to copy: its title, its headline, and each part under its heading", async () => {
		const { text, title } = await readBrief(await as("boss"), "d1");
		expect(title).toBe("Deck ovens, Millrace Bread");
		const [first, second, third, fourth] = text.split("\n");
		expect([first, third, fourth]).toEqual(["Deck ovens, Millrace Bread (2026-11-24, Rae Penn)", "", "OVERVIEW"]);
		expect(second).toMatch(/^They wrote or called on 18 Nov, 4 working days ago, and nobody answered; .*\.$/);
		expect(text).toContain("\n\nOPEN QUESTIONS\nEvery question has an answer.\n\nAGREED\n- Next step: Visit, 20 Nov. [the deal]\n");
	});
	test("closes no sentence twice that somebody closed already", async () => {
		const { versionId } = await readDeal(await as("boss"), "d2", undefined);
		await editDeals(await as("boss"), { targets: [{ id: "d2", versionId }], change: { nextStep: "Do they have the money?", nextStepDate: null } });
		expect((await parts("d2")).Agreed).toEqual(["Next step: Do they have the money? [the deal]"]);
	});
});
