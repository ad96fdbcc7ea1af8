import { act, fireEvent, waitFor } from "@testing-library/react";
import { useState } from "react";
import { hydrateRoot } from "react-dom/client";
import { renderToString } from "react-dom/server";
import { afterEach, beforeAll, expect, test } from "vitest";
import { keepEarlyInput } from "@/ui/frame/earlyInput";

/** All that reached the form’s own code. */
let told: string[] = [];
const tell = (words: string) => told.push(words);

function Form() {
	const [name, setName] = useState("");
	const [on, setOn] = useState(true);
	const [shown, setShown] = useState(false);
	return (
		<form>
			<input aria-label="Name" value={name} onChange={({ target }) => setName(target.value)} />
			<input aria-label="On" type="checkbox" checked={on} onChange={({ target }) => setOn(target.checked)} />
			<input aria-label="File" type="file" onChange={() => tell("a file")} />
			<button
				type="button"
				onClick={() => {
					setShown(!shown);
					tell("more");
				}}
			>
				More
			</button>
			<button type="button" onClick={() => tell("less")}>
				Less
			</button>
		</form>
	);
}

let place: HTMLElement;
const field = <T extends HTMLElement>(name: string) => place.querySelector(`[aria-label="${name}"]`) as T;
const button = (words: string) => [...place.querySelectorAll("button")].find(({ textContent }) => textContent === words) as HTMLButtonElement;

function arrive(): void {
	told = [];
	place = document.createElement("div");
	document.body.append(place);
	place.innerHTML = renderToString(<Form />);
}
async function comeAlive(): Promise<void> {
	await act(async () => {
		hydrateRoot(place, <Form />);
	});
}
// As the page carries it: as text, with nothing from outside.
beforeAll(() => new Function(`(${keepEarlyInput})()`)());
afterEach(() => place.remove());

function fillIn(): void {
	const name = field<HTMLInputElement>("Name");
	for (const value of ["Fe", "Fen"]) {
		name.value = value;
		fireEvent(name, new Event("input", { bubbles: true }));
	}
	fireEvent(field("File"), new Event("change", { bubbles: true }));
	const on = field<HTMLInputElement>("On");
	on.checked = false;
	fireEvent(on, new Event("input", { bubbles: true }));
}

test("what is typed and chosen before the page has come alive reaches the form’s own code; a form that is sent waits", async () => {
	arrive();
	fillIn();
	const submit = new Event("submit", { bubbles: true, cancelable: true });
	fireEvent(place.querySelector("form") as HTMLFormElement, submit);
	expect(submit.defaultPrevented).toBe(true);
	expect(place.querySelector("form")?.getAttribute("aria-busy")).toBe("true");
	expect(told).toEqual([]);
	await comeAlive();
	await waitFor(() => expect(told).toEqual(["a file"]));
	expect(field<HTMLInputElement>("Name").value).toBe("Fen");
	expect(field<HTMLInputElement>("On").checked).toBe(false);
	// This DOM’s forms don’t show what the framework marks them with; that one is sent then is tried in a browser.
	expect(place.querySelector("[aria-busy]:not(form)")).toBeNull();
});

test("of what is pressed the last counts, once; what is gone by then is left", async () => {
	arrive();
	for (const words of ["Less", "More", "More"]) button(words).click();
	expect(told).toEqual([]);
	await comeAlive();
	await waitFor(() => expect(told).toEqual(["more"]));
	place.remove();
	arrive();
	button("Less").click();
	place.innerHTML = renderToString(<Form />);
	await comeAlive();
	await new Promise((resolve) => setTimeout(resolve, 150));
	expect(told).toEqual([]);
	// From then on everything is the page’s own again.
	await act(async () => button("Less").click());
	expect(told).toEqual(["less"]);
});

test("a form with an address of its own is the browser’s", () => {
	arrive();
	const form = place.querySelector("form") as HTMLFormElement;
	form.setAttribute("action", "/elsewhere");
	const submit = new Event("submit", { bubbles: true, cancelable: true });
	form.dispatchEvent(submit);
	expect(submit.defaultPrevented).toBe(false);
});
