import { fireEvent, screen, waitFor } from "@testing-library/react";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { editChoices } from "@/features/deals/server/editChoices";
import { editDeals } from "@/features/deals/server/editDeals";
import { EditBox } from "@/features/deals/ui/edit/EditBox";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";
import { show } from "./stage";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("edit_on_screen");
	await importAs(small());
});
afterAll(() => database.drop());

/** The box over the close date of a deal, for the manager of the North team. */
async function open() {
	const context = await as("north");
	const view = await readSheet(context, "d1", "2026-11-24", "2026-11-16");
	const target = document.body.appendChild(document.createElement("button"));
	const closed: true[] = [];
	const shown = show(
		<EditBox deal={view} field="closeDate" target={target} choices={editChoices(context)} today="2026-11-24" onClose={() => closed.push(true)} />,
		"north",
	);
	return { ...shown, closed };
}
const now = async () => readDeal(await as("north"), "d1", undefined);
const type = (element: HTMLElement, value: string) => fireEvent.change(element, { target: { value } });
const save = () => screen.getByRole("button", { name: "Save" }) as HTMLButtonElement;

describe("the box over a field", () => {
	test("asks why a deal closes later, and saves only once it is told", async () => {
		const { asked, closed } = await open();
		type(await screen.findByLabelText("Close date"), "2027-01-29");
		const why = await screen.findByLabelText("Why does it close later?");
		expect(save().disabled).toBe(true);
		type(why, "Their board meets in January");
		expect(save().disabled).toBe(false);
		fireEvent.click(save());
		await waitFor(() => expect(closed).toHaveLength(1));
		expect(asked.map(({ name }) => name)).toEqual(["deals.edit"]);
		expect((await now()).closeDate).toBe("2027-01-29");
	});
	test("asks nothing of one that closes sooner", async () => {
		await open();
		type(await screen.findByLabelText("Close date"), "2026-12-02");
		expect(screen.queryByLabelText("Why does it close later?")).toBeNull();
		expect(save().disabled).toBe(false);
	});
	test("tells when somebody was faster, writes nothing of its own, and lets one insist", async () => {
		const { closed } = await open();
		await editDeals(await as("north"), { targets: [{ id: "d1", versionId: (await now()).versionId }], change: { category: "commit" } });
		type(await screen.findByLabelText("Close date"), "2026-12-02");
		fireEvent.click(save());
		expect((await screen.findByRole("alert")).textContent).toContain("Nora Thistle changed Deck ovens since");
		expect((await now()).closeDate).toBe("2027-01-29");
		fireEvent.click(screen.getByRole("button", { name: "Use my value" }));
		fireEvent.click(save());
		await waitFor(() => expect(closed).toHaveLength(1));
		expect(await now()).toMatchObject({ closeDate: "2026-12-02", category: "commit" });
	});
	test("is left by Escape with nothing written", async () => {
		const { asked, closed } = await open();
		fireEvent.keyDown(await screen.findByLabelText("Close date"), { key: "Escape" });
		expect(closed).toHaveLength(1);
		expect(asked).toEqual([]);
	});
});
