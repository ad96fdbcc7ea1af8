import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import { useState } from "react";
import { describe, expect, test } from "vitest";
import { PANELS } from "@/features/panels";
import { placesFound, SetupPlaces } from "@/features/setup/ui/SetupPlaces";
import { PANEL_GROUPS } from "@/platform/panel";
import { Help } from "@/ui/frame/Help";
import { TodayProvider } from "@/ui/frame/today";
import { DayField } from "@/ui/parts/DayField";
import { Heads } from "@/ui/parts/Heads";
import { Term } from "@/ui/parts/Term";
import { meaning, TERMS } from "@/ui/terms";

const type = (element: HTMLElement, value: string) => fireEvent.input(element, { target: { value } });
const field = () => screen.getByLabelText("Due", { selector: "input" }) as HTMLInputElement;

describe("a day’s field", () => {
	const given: string[] = [];
	function Held({ start = "", ...more }: { start?: string; min?: string; max?: string; required?: boolean }) {
		const [day, setDay] = useState(start);
		return (
			<TodayProvider today="2026-11-24">
				<DayField
					aria-label="Due"
					value={day}
					onDay={(iso) => {
						given.push(iso);
						setDay(iso);
					}}
					{...more}
				/>
				<button type="button" onClick={() => setDay("2026-12-24")}>
					From outside
				</button>
			</TodayProvider>
		);
	}

	test("takes what people type, and shows it like every other day once it is left", () => {
		given.length = 0;
		render(<Held start="2026-11-27" />);
		expect(field().value).toBe("27 Nov 2026");
		for (const [typed, iso, shown] of [
			["+3", "2026-11-27", "27 Nov 2026"],
			["fri", "2026-11-27", "27 Nov 2026"],
			["1 dec", "2026-12-01", "1 Dec 2026"],
			["2026-12-03", "2026-12-03", "3 Dec 2026"],
		] as const) {
			type(field(), typed);
			expect(field().value).toBe(typed);
			fireEvent.blur(field());
			expect([typed, field().value, given.at(-1) ?? "2026-11-27"]).toEqual([typed, shown, given.length ? iso : "2026-11-27"]);
		}
		type(field(), "");
		expect(given.at(-1)).toBe("");
	});

	test("says what is wrong with a day, and keeps what was typed", () => {
		given.length = 0;
		render(<Held start="2026-11-27" min="2026-11-24" max="2026-12-31" required />);
		type(field(), "soon");
		expect(field().validationMessage).toBe("“soon” isn’t a day. Write it like 27 Nov, +3 or Fri.");
		fireEvent.blur(field());
		expect([field().value, given]).toEqual(["soon", []]);
		type(field(), "2026-11-01");
		expect(field().validationMessage).toBe("1 Nov 2026 is too early: choose 24 Nov 2026 or later.");
		type(field(), "1 feb");
		expect(field().validationMessage).toBe("1 Feb 2027 is too late: choose 31 Dec 2026 or earlier.");
		type(field(), "");
		expect(field().validationMessage).toContain("Enter a day");
		type(field(), "24 dec");
		expect(field().validationMessage).toBe("");
	});

	test("follows a value from outside, and is chosen in a calendar, which closes", async () => {
		render(<Held start="2026-11-27" />);
		fireEvent.click(screen.getByText("From outside"));
		expect(field().value).toBe("24 Dec 2026");
		fireEvent.click(screen.getByRole("button", { name: "Calendar" }));
		const grid = screen.getByRole("grid");
		fireEvent.click(within(grid).getByRole("button", { name: /December 18th, 2026/ }));
		expect(field().value).toBe("18 Dec 2026");
		await waitFor(() => expect(screen.queryByRole("grid")).toBeNull());
	});
});

describe("Setup", () => {
	const places = PANELS.map(({ key, label, group, about }) => ({ key, label, group, about }));
	test("has each place in one group, with a sentence, and finds it by its words", () => {
		expect(new Set(places.map(({ key }) => key)).size).toBe(places.length);
		for (const { key } of PANEL_GROUPS) expect(places.filter(({ group }) => group === key).length).toBeGreaterThan(1);
		for (const { about } of places) expect(about).toMatch(/^\p{Lu}.*\.$/u);
		for (const place of places) expect(placesFound(PANEL_GROUPS, places, place.label).map(({ key }) => key)).toContain(place.key);
		expect(placesFound(PANEL_GROUPS, places, "  CURRENCY ").map(({ key }) => key)).toEqual(["company"]);
		expect(placesFound(PANEL_GROUPS, places, "")).toEqual(places);
		expect(placesFound(PANEL_GROUPS, places, "currency mail")).toEqual([]);
	});

	test("opens the first match by Enter, and says when nothing matches", () => {
		const went: string[] = [];
		render(
			<NuqsTestingAdapter onUrlUpdate={({ searchParams }) => went.push(searchParams.get("place") ?? "")}>
				<SetupPlaces groups={PANEL_GROUPS} places={places} current="company">
					<p>Here</p>
				</SetupPlaces>
			</NuqsTestingAdapter>,
		);
		expect(screen.getByRole("link", { name: "Company" }).getAttribute("aria-current")).toBe("page");
		const search = screen.getByLabelText("Search setup");
		type(search, "nothing like this");
		expect(screen.getByText(/No part of Setup matches/)).toBeTruthy();
		fireEvent.keyDown(search, { key: "Enter" });
		type(search, "one-time codes");
		expect(screen.getAllByRole("link").map(({ textContent }) => textContent)).toEqual(["My sign-in"]);
		fireEvent.keyDown(search, { key: "Enter" });
		return new Promise((resolve) => setTimeout(resolve, 60)).then(() => expect(went).toEqual(["signin"]));
	});
});

describe("terms", () => {
	test("each have one sentence, which Help lists", () => {
		for (const { means } of Object.values(TERMS)) expect(means).toMatch(/^\p{Lu}.*[^.]\.$/u);
		render(<Help show path="/deals" rail={[{ key: "d", label: "Deals", path: "/deals", count: 0, countLabel: "" }]} keys={[]} onHide={() => undefined} />);
		for (const { word, means } of Object.values(TERMS)) {
			expect(screen.getByText(word, { selector: "dt" })).toBeTruthy();
			expect(screen.getByText(means, { selector: "dd" })).toBeTruthy();
		}
	});

	test("are explained where they are met: by focus, and at the heads of tables", async () => {
		render(
			<>
				<Term of="trail" />
				<table>
					<Heads of={["Runway", "Deal"]} />
				</table>
			</>,
		);
		fireEvent.focus(screen.getByRole("button", { name: "Trail" }));
		expect((await screen.findByRole("tooltip")).textContent).toBe(meaning("trail"));
		expect(screen.getAllByRole("columnheader").map(({ title }) => title)).toEqual([meaning("runway"), ""]);
	});
});
