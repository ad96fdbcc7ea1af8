import { act, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readPlans } from "@/features/rounds/server/plans";
import { readPreparation, readPrepared } from "@/features/rounds/server/preparation";
import { readBrief } from "@/features/rounds/server/readBrief";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRests } from "@/features/rounds/server/readRests";
import { readRound } from "@/features/rounds/server/readRound";
import { readRounds } from "@/features/rounds/server/readRounds";
import { askRest, giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { readWalk, startWalk } from "@/features/rounds/server/startWalk";
import { BriefScreen } from "@/features/rounds/ui/BriefScreen";
import { DealRounds } from "@/features/rounds/ui/DealRounds";
import { HeldScreen } from "@/features/rounds/ui/HeldScreen";
import { MinutesScreen } from "@/features/rounds/ui/MinutesScreen";
import { Preparing } from "@/features/rounds/ui/Preparing";
import { RestsScreen } from "@/features/rounds/ui/RestsScreen";
import { RoundScreen } from "@/features/rounds/ui/RoundScreen";
import { RoundsScreen } from "@/features/rounds/ui/RoundsScreen";
import { readDeal } from "@/features/sheet/server/readDeal";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { amountIn, show } from "./stage";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("rounds_on_screen");
	window.scrollTo = () => undefined;
});
beforeEach(async () => {
	localStorage.clear();
	await refill(small());
});
afterAll(() => database.drop());

const type = (element: HTMLElement, value: string) => fireEvent.input(element, { target: { value } });
const press = (key: string) =>
	act(async () => void fireEvent.keyDown(document.body, { key, code: /\d/.test(key) ? `Digit${key}` : `Key${key.toUpperCase()}` }));
const button = (name: string | RegExp) => screen.getByRole("button", { name }) as HTMLButtonElement;
const start = async (who = "boss", more: Partial<Parameters<typeof startRound>[1]> = {}) =>
	(await startRound(await as(who), { dealIds: ["d1", "d2"], sorted: "hand", ...more })).id;

/** A round on stage, read anew whenever something has been done in it. */
async function stage(id: string, who = "boss") {
	const shown = show(<RoundScreen view={await readRound(await as(who), id)} asked={null} />, who);
	const again = async () => shown.again(<RoundScreen view={await readRound(await as(who), id)} asked={null} />);
	const done = async (name: string) => {
		await waitFor(() => expect(shown.asked.map((one) => one.name)).toContain(name));
		await shown.idle();
		shown.asked.length = 0;
		await again();
	};
	return { ...shown, again, done };
}
const called = async (id: string, dealId = "d1") => (await readRound(await as("boss"), id)).queue.find((deal) => deal.id === dealId)?.call;

describe("a round on screen", () => {
	test("is called by keys, and its strip says what the calls come to", async () => {
		const id = await start();
		const { done } = await stage(id);
		const strip = () => screen.getByLabelText("Period total");
		const at = (words: string) => amountIn(within(strip()).getByText(words).parentElement?.querySelector("b")?.title ?? "");
		expect(at("By the calls")).toBe(at("By the reps"));
		await press("1");
		await done("rounds.goTo");
		expect(await called(id)).toMatchObject({ call: "holds", by: "Bo Sable" });
		expect(at("By the calls") - at("By the reps")).toBe(120_000);
		expect(screen.getByRole("heading", { level: 2 }).textContent).toContain("Mixers");
		await press("2");
		await done("rounds.call");
		expect(at("Called shaky")).toBe(50_000);
		expect(screen.getByText("2 of 2")).toBeTruthy();
	});
	test("asks for the day and why of what moves, and changes the deal at once", async () => {
		const id = await start();
		const { done } = await stage(id);
		await press("3");
		const form = await screen.findByRole("form", { name: "New close date" });
		type(within(form).getByLabelText("New close date", { selector: "input" }), "2027-01-29");
		type(within(form).getByLabelText("Reason"), "Board in January");
		fireEvent.submit(form);
		await done("rounds.call");
		expect((await readDeal(await as("boss"), "d1", undefined)).closeDate).toBe("2027-01-29");
		expect(await called(id)).toMatchObject({ call: "moves", to: "2027-01-29", left: "deal" });
	});
	test("takes promises and notes, and leaves a form by Escape with nothing done", async () => {
		const id = await start();
		const { done, asked } = await stage(id);
		await press("4");
		const gone = await screen.findByRole("form", { name: "Reason for the loss" });
		fireEvent.keyDown(gone, { key: "Escape" });
		await waitFor(() => expect(screen.queryByRole("form", { name: "Reason for the loss" })).toBeNull());
		await press("t");
		type(await screen.findByLabelText("Promise"), "Bring the figures");
		fireEvent.submit(screen.getByRole("form", { name: "A promise" }));
		await done("rounds.promise");
		expect(screen.getByText("Bring the figures")).toBeTruthy();
		const note = screen.getByLabelText("Note");
		type(note, "They count on us");
		fireEvent.blur(note);
		await done("rounds.note");
		expect((await readRound(await as("rep1"), id)).queue[0]?.note).toBe("They count on us");
		expect(asked.map((one) => one.name)).not.toContain("rounds.call");
	});
	test("says who called it meanwhile, and keeps what somebody else noted beside what is being written", async () => {
		const id = await start();
		const { again } = await stage(id, "north");
		await makeCall(await as("boss"), { id, dealId: "d1", call: "shaky" });
		await press("1");
		await screen.findByText(/Bo Sable called it shaky in the meantime/);
		type(screen.getByLabelText("Note"), "Mine");
		const { noteRound } = await import("@/features/rounds/server/conduct");
		await noteRound(await as("rep1"), { id, dealId: "d1", note: "Theirs", before: "" });
		await again();
		await screen.findByText(/Someone else wrote here: “Theirs”/);
		fireEvent.click(button("Combine both"));
		expect((screen.getByLabelText("Note") as HTMLTextAreaElement).value).toBe("Theirs\nMine");
	});
	test("keeps a call that can’t be sent, says so, and sends it by itself; what is refused is said once", async () => {
		const id = await start();
		localStorage.setItem(`porch-lamp-calls ${id}`, JSON.stringify([{ id, dealId: "d1", call: "holds", seen: null }]));
		vi.useFakeTimers({ shouldAdvanceTime: true });
		const { asked } = await stage(id);
		expect(await screen.findByText(/1 call waits to be sent/)).toBeTruthy();
		await act(async () => void (await vi.advanceTimersByTimeAsync(3100)));
		vi.useRealTimers();
		await waitFor(() => expect(asked.map((one) => one.name)).toContain("rounds.call"));
		await waitFor(async () => expect(await called(id)).toMatchObject({ call: "holds" }));
		await waitFor(() => expect(screen.queryByText(/waits to be sent/)).toBeNull());
		expect(localStorage.getItem(`porch-lamp-calls ${id}`)).toBeNull();
	});
	test("shows a rep their own deals of it; the call isn’t theirs, and the note is", async () => {
		const id = await start();
		await stage(id, "rep1");
		expect(button(/^Holds/).disabled).toBe(true);
		expect(screen.queryByRole("button", { name: "End the round" })).toBeNull();
		expect(screen.getByText("1 of others aren’t shown")).toBeTruthy();
		expect((screen.getByLabelText("Note") as HTMLTextAreaElement).readOnly).toBe(false);
	});
	test("lets a deal be put elsewhere in its queue, and its whole be taken away while nothing was said", async () => {
		const id = await start();
		const { done } = await stage(id);
		fireEvent.click(button("Later: Deck ovens"));
		await done("rounds.place");
		expect((await readRound(await as("boss"), id)).queue.map((deal) => deal.id)).toEqual(["d2", "d1"]);
		fireEvent.click(button("Delete"));
		await screen.findByText("Round deleted.");
		expect((await readRounds(await as("boss"))).rounds).toEqual([]);
	});
});

describe("a walk on screen", () => {
	test("gives the remedy, looks, and lets rest, by keys", async () => {
		const { id } = await startWalk(await as("boss"), {});
		const { done } = await stage(id);
		const [first, second] = (await readRound(await as("boss"), id)).queue;
		await press("1");
		await done("rounds.decide");
		expect((await readRound(await as("boss"), id)).queue.find((deal) => deal.id === first?.id)?.call?.call).toBe("remedy");
		if (!second) return;
		await press("3");
		type(await screen.findByLabelText("Rest until", { selector: "input" }), "2026-12-04");
		type(screen.getByLabelText("Reason"), "Known");
		fireEvent.submit(screen.getByRole("form", { name: "Give rest" }));
		await done("rounds.decide");
		expect((await readRests(await as("boss"))).rests).toMatchObject([{ dealId: second.id, holds: true }]);
	});
});

describe("the list of rounds", () => {
	const list = async (who = "north") => {
		const context = await as(who);
		const viewpoint = resolveViewpoint(context, {});
		return (
			<RoundsScreen
				list={await readRounds(context)}
				plans={await readPlans(context)}
				prepared={await readPrepared(context, viewpoint)}
				walk={await readWalk(context)}
				whose={viewpoint.whose}
				due={viewpoint.due}
				past={false}
				choices={[{ key: "team:North", label: "North" }]}
			/>
		);
	};
	test("plans one for each week and takes the plan away with a way back", async () => {
		show(await list(), "north");
		fireEvent.click(button("Plan a weekly round"));
		fireEvent.change(screen.getByLabelText("Day of the week"), { target: { value: "4" } });
		fireEvent.click(button("Save plan"));
		await screen.findByText("Round planned.");
		expect(await readPlans(await as("north"))).toMatchObject([{ name: "Thursdays with North", weekday: 4, next: "2026-11-26" }]);
		fireEvent.click(button("Undo"));
		await waitFor(async () => expect(await readPlans(await as("north"))).toEqual([]));
	});
	test("says to whom nothing was held yet what it is for, and offers a rep nothing that they may not", async () => {
		show(await list("rep1"), "rep1");
		expect(screen.getByText(/No past rounds yet\. When your manager has held one/)).toBeTruthy();
		expect(screen.queryByRole("button", { name: "Start the round" })).toBeNull();
	});
	test("starts one over the sentence’s people", async () => {
		show(await list(), "north");
		fireEvent.click(screen.getByLabelText("include calm deals"));
		fireEvent.click(button("Start the round"));
		await screen.findByText(/Round started. This moment is saved as the mark “Round with North team, 24 Nov”/);
		expect((await readRounds(await as("north"))).rounds).toMatchObject([{ name: "Round with North team", ended: false }]);
	});
});

describe("after a round", () => {
	test("its minutes say what was called and what it comes to; it is opened again by one press", async () => {
		const id = await start();
		await makeCall(await as("boss"), { id, dealId: "d1", call: "gone", why: "Price" });
		await endRound(await as("boss"), { id });
		show(<MinutesScreen view={await readMinutes(await as("boss"), id)} mayHold />, "boss");
		expect(screen.getByText(/^1 of 2 deals called; the calls agree with the reps/)).toBeTruthy();
		expect(within(screen.getByRole("row", { name: /Deck ovens/ })).getByText("Gone: Price")).toBeTruthy();
		expect(within(screen.getByRole("row", { name: /Mixers/ })).getByText("not called")).toBeTruthy();
		expect(screen.getByText("No promises were made")).toBeTruthy();
		fireEvent.click(button("Reopen round"));
		await screen.findByText("Round reopened.");
		expect((await readRound(await as("boss"), id)).ended).toBe(false);
	});
	test("how calls held is said in counts, and that there is nothing to look back on yet", async () => {
		const { rerender } = show(<HeldScreen view={await readHeld(await as("boss"))} />, "boss");
		expect(screen.getByText("No settled calls yet")).toBeTruthy();
		const id = await start();
		await makeCall(await as("boss"), { id, dealId: "d1", call: "holds" });
		await endRound(await as("boss"), { id });
		rerender(<HeldScreen view={await readHeld(await as("boss"))} />);
		expect(screen.getByText("1 call made, none settled yet")).toBeTruthy();
		expect(screen.getAllByText("1 open")).toHaveLength(2);
	});
});

describe("rests on screen", () => {
	test("are given or refused where they are asked for, ended, and given back by an undo", async () => {
		await askRest(await as("rep1"), { dealId: "d1", until: "2026-12-04", reason: "Their holiday" });
		const screenOf = async () => <RestsScreen {...(await readRests(await as("north")))} currency="EUR" />;
		const { again } = show(await screenOf(), "north");
		expect(screen.getByText("1 rest asked for")).toBeTruthy();
		fireEvent.click(button("Give rest: Deck ovens"));
		await screen.findByText("Deck ovens rests until 4 Dec.");
		again(await screenOf());
		expect(screen.getByText("1 deal at rest")).toBeTruthy();
		fireEvent.click(button("End rest: Deck ovens"));
		await screen.findByText("Deck ovens is lit again.");
		again(await screenOf());
		expect(screen.getByText("No deal is at rest")).toBeTruthy();
		expect(screen.getByText("Nora Thistle ended it")).toBeTruthy();
		fireEvent.click(button("Undo"));
		await waitFor(async () => expect((await readRests(await as("north"))).rests.some(({ holds }) => holds)).toBe(true));
	});
	test("a sheet says that its deal rests, and lets a rep only ask", async () => {
		const { unmount } = show(<DealRounds id="d1" live />, "rep1");
		fireEvent.click(await screen.findByRole("button", { name: "Ask for rest …" }));
		type(screen.getByLabelText("Rest until", { selector: "input" }), "2026-12-04");
		type(screen.getByLabelText("Reason"), "Their holiday");
		fireEvent.submit(screen.getByRole("form", { name: "Ask for rest" }));
		await screen.findByText("Request sent to your manager.");
		expect((await readRests(await as("rep1"))).rests).toMatchObject([{ state: "asked" }]);
		unmount();
		await giveRest(await as("north"), { dealId: "d1", until: "2026-12-05", reason: "Board, known" });
		show(<DealRounds id="d1" live />, "rep1");
		expect(await screen.findByText("At rest until 5 Dec")).toBeTruthy();
		expect(screen.queryByRole("button", { name: "End session" })).toBeNull();
	});
});

describe("before a round", () => {
	test("a desk says what will be asked, and a deal is ready by a tick or by a key", async () => {
		const desk = async () => <Preparing preparation={await readPreparation(await as("rep1"))} today="2026-11-24" mayChange />;
		const { again } = show(await desk(), "rep1");
		expect(screen.getByText(/It will ask about 1 of 1 deals; 0 are ready/)).toBeTruthy();
		fireEvent.click(screen.getByLabelText("ready"));
		await waitFor(async () => expect((await readPreparation(await as("rep1"))).prepared).toBe(1));
		again(await desk());
		expect(screen.getByText(/1 is ready/)).toBeTruthy();
		await press("r");
		await waitFor(async () => expect((await readPreparation(await as("rep1"))).prepared).toBe(0));
	});
	test("a brief stands on one page and is copied as text; where the browser forbids it, that is said", async () => {
		const view = await readBrief(await as("rep1"), "d1");
		const copied: string[] = [];
		Object.defineProperty(navigator, "clipboard", { configurable: true, value: { writeText: async (text: string) => void copied.push(text) } });
		show(<BriefScreen view={view} />, "rep1");
		for (const { heading } of view.parts) expect(screen.getByRole("heading", { name: heading })).toBeTruthy();
		fireEvent.click(button("Copy as text"));
		await screen.findByText("Brief copied as text.");
		expect(copied).toEqual([view.text]);
		Object.defineProperty(navigator, "clipboard", { configurable: true, value: { writeText: () => Promise.reject(new Error("no")) } });
		fireEvent.click(button("Copy as text"));
		await screen.findByText(/The browser doesn’t allow copying/);
	});
});
