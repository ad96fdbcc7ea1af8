import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readHabits } from "@/features/setup/server/habitSettings";
import { readQuestions } from "@/features/setup/server/questionSettings";
import { readAudit } from "@/features/setup/server/readAudit";
import { readStages } from "@/features/setup/server/stageSettings";
import { AuditPanel } from "@/features/setup/ui/AuditPanel";
import { QuestionsPanel } from "@/features/setup/ui/QuestionsPanel";
import { StagesPanel } from "@/features/setup/ui/StagesPanel";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { readTaskPage } from "@/features/tasks/server/taskPage";
import { TasksScreen } from "@/features/tasks/ui/TasksScreen";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";
import { show } from "./stage";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("forms_on_screen");
	await importAs(
		small({
			"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts them?,,2,1,", "q2,Money,Who signs?,,1,2,true"],
		}),
	);
});
afterAll(() => database.drop());

const type = (element: HTMLElement, value: string) => fireEvent.input(element, { target: { value } });
const button = (name: string | RegExp) => screen.getByRole("button", { name }) as HTMLButtonElement;

describe("the questions", () => {
	const panel = async () => <QuestionsPanel view={readQuestions(await as("ops"))} mayChange />;
	test("ask nothing of anybody until something is changed, and can be discarded", async () => {
		const { asked } = show(await panel(), "ops");
		expect(screen.queryByRole("button", { name: "Discard" })).toBeNull();
		const [first] = screen.getAllByLabelText("Question") as HTMLInputElement[];
		type(first as HTMLElement, "What hurts them most?");
		fireEvent.click(await screen.findByRole("button", { name: "Discard" }));
		await waitFor(() =>
			expect((screen.getAllByLabelText("Question") as HTMLInputElement[]).map((one) => one.value)).toEqual(["What hurts them?", "Who signs?"]),
		);
		expect(asked).toEqual([]);
	});
	test("change places, are added and taken out, and are kept with what was typed", async () => {
		const shown = show(await panel(), "ops");
		fireEvent.click(button("Who signs? further up"));
		fireEvent.click(button("Add a question"));
		const fields = (await waitFor(() => {
			const all = screen.getAllByLabelText("Question");
			expect(all).toHaveLength(3);
			return all;
		})) as HTMLInputElement[];
		type(fields[2] as HTMLElement, "By when?");
		type(screen.getAllByLabelText("Weight")[2] as HTMLElement, "3.5");
		fireEvent.click(await screen.findByRole("button", { name: "Retire question: What hurts them?" }));
		fireEvent.click(button("Save as the edition from today on"));
		await screen.findByText("Questions saved, effective from today.");
		expect(readQuestions(await as("ops")).questions.map(({ prompt, weight, area }) => [prompt, weight, area])).toEqual([
			["Who signs?", 1, "Money"],
			["By when?", 3.5, "Need"],
		]);
		shown.again(await panel());
		await waitFor(() => expect(screen.queryByRole("button", { name: "Discard" })).toBeNull());
		fireEvent.click(button("Undo"));
		await waitFor(async () => expect(readQuestions(await as("ops")).questions.map(({ prompt }) => prompt)).toEqual(["What hurts them?", "Who signs?"]));
	});
	test("can be read, not changed, by whoever may not", async () => {
		show(<QuestionsPanel view={readQuestions(await as("rep1"))} mayChange={false} />, "rep1");
		expect((screen.getByRole("group") as HTMLFieldSetElement).disabled).toBe(true);
		expect(screen.queryByRole("button", { name: "Add a question" })).toBeNull();
	});
});

test("stages keep all digits of a chance that nobody touched, and a new one stands before the closed ones", async () => {
	const context = await as("ops");
	const [stages, habits] = [
		(await readStages(context)).map((stage) => (stage.name === "Survey" ? { ...stage, probability: 0.33333 } : stage)),
		readHabits(context),
	];
	const { asked } = show(<StagesPanel stages={stages} habits={habits} mayChange currency="EUR" />, "ops");
	expect((screen.getByRole("button", { name: "Remove Survey" }) as HTMLButtonElement).disabled).toBe(true);
	fireEvent.click(button("Add a stage"));
	const names = (await screen.findAllByLabelText("Name of the stage")) as HTMLInputElement[];
	expect(names.map((one) => one.value)).toEqual(["Enquiry", "Survey", "Terms", "", "Won", "Lost"]);
	type(names[3] as HTMLElement, "Signing");
	type(screen.getAllByLabelText("Chance in per cent")[3] as HTMLElement, "92.5");
	fireEvent.click(button("Save stages"));
	await screen.findByText("Stages saved.");
	const [sent] = asked as unknown as [{ input: { stages: { name: string; probability: number }[] } }];
	expect(sent.input.stages.map(({ name, probability }) => [name, probability])).toEqual([
		["Enquiry", 0.1],
		["Survey", 0.33333],
		["Terms", 0.8],
		["Signing", 0.925],
		["Won", 1],
		["Lost", 0],
	]);
});

test("a task is done with a note, counted where it belongs, and can be opened again", async () => {
	await giveTasks(await as("north"), { dealIds: ["d1"], title: "Ask for the floor plan" });
	const page = async (view: "open" | "done") => {
		const context = await as("rep1");
		const found = await readTaskPage(context, new Set([context.actor.index]), context.now.day, { view, limit: 10 });
		return <TasksScreen page={found} today="2026-11-24" whose="Rae Penn" me="rep1" mayChange onlyOwn />;
	};
	const shown = show(await page("open"), "rep1");
	fireEvent.click(button(/^Done: Ask for the floor plan/));
	const dialog = within(await screen.findByRole("dialog"));
	type(await dialog.findByRole("textbox"), "They sent it.");
	fireEvent.click(dialog.getByRole("button", { name: "Mark done" }));
	await screen.findByText("Task done.");
	shown.again(await page("done"));
	expect(screen.getByText("“They sent it.”")).toBeTruthy();
	fireEvent.click(button("Reopen"));
	await screen.findByText("Task reopened.");
	shown.again(await page("open"));
	expect(screen.getByText("Ask for the floor plan")).toBeTruthy();
});

test("who changed what comes a part at a time and says how many there are", async () => {
	const view = await readAudit(await as("ops"), { limit: 2 });
	expect(view.count).toBeGreaterThan(2);
	show(<AuditPanel asked={{}} zone="Europe/Berlin" view={view} />, "ops");
	expect(screen.getAllByRole("row")).toHaveLength(3);
	expect(screen.getByText(new RegExp(`the first 2 of ${view.count}`))).toBeTruthy();
});
