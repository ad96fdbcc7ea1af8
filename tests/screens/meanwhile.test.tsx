import { fireEvent, screen } from "@testing-library/react";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { readSheet } from "@/features/sheet/server/readSheet";
import { Questions } from "@/features/sheet/ui/Questions";
import { as, freshDatabase, refill } from "../kit/database";
import { inspected } from "../kit/inspection";
import { show } from "./stage";

// Nothing that is written while something else is being sent is lost.
vi.mock("next/navigation", async (actual) => ({
	...(await actual<typeof import("next/navigation")>()),
	useSearchParams: () => new URLSearchParams(),
	useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("meanwhile");
	await refill(inspected());
});
afterAll(() => database.drop());

test("a note written while an answer is on its way stays for the next one; one that was sent goes", async () => {
	const view = await readSheet(await as("boss"), "d1", "2026-11-24", "2026-11-09");
	const { idle } = show(<Questions view={view} onTask={() => undefined} />, "boss");
	fireEvent.click(screen.getByRole("button", { name: /^Who signs/ }));
	const note = () => screen.getByLabelText("Note on the answer") as HTMLInputElement;
	fireEvent.change(note(), { target: { value: "Said by phone" } });
	const level = (name: RegExp) => screen.getAllByRole("button", { name }).at(-1) as HTMLButtonElement;
	fireEvent.click(level(/^heard/));
	fireEvent.change(note(), { target: { value: "And in writing" } });
	await idle();
	expect(note().value).toBe("And in writing");
	fireEvent.click(level(/^assumed/));
	await idle();
	expect(note().value).toBe("");
});
