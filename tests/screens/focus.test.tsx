import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, test } from "vitest";
import { FocusKeeper } from "@/ui/frame/FocusKeeper";

afterEach(cleanup);

function List() {
	const [items, setItems] = useState(["first", "second", "third"]);
	const [open, setOpen] = useState(false);
	return (
		<main>
			<FocusKeeper />
			<ul aria-label="List">
				{items.map((item) => (
					<li key={item}>
						{item}
						<button type="button" onClick={() => setItems(items.filter((one) => one !== item))}>
							Settle {item}
						</button>
					</li>
				))}
			</ul>
			<button type="button" onClick={() => setOpen(true)}>
				Open
			</button>
			{open && (
				<div role="dialog" aria-label="Form">
					<form
						onSubmit={(event) => {
							event.preventDefault();
							setOpen(false);
						}}
					>
						<input aria-label="When" required />
						<input aria-label="Aside" />
						<select aria-label="Reason" required defaultValue="">
							<option value="">Choose</option>
							<option>Board</option>
						</select>
					</form>
				</div>
			)}
		</main>
	);
}
const press = (name: string) => {
	const button = screen.getByRole("button", { name });
	button.focus();
	fireEvent.click(button);
};
const focused = () => document.activeElement?.getAttribute("aria-label") ?? document.activeElement?.textContent;

test("what is gone gives its focus to what has taken its place, and the last of all to the part it stood in", async () => {
	render(<List />);
	press("Settle second");
	await waitFor(() => expect(focused()).toBe("Settle third"));
	press("Settle third");
	await waitFor(() => expect(focused()).toBe("Settle first"));
	press("Settle first");
	await waitFor(() => expect(focused()).toBe("List"));
});

test("in a dialog Enter goes to what is needed, then saves; and the focus goes back to what opened it", async () => {
	render(<List />);
	press("Open");
	const [when, aside, why] = ["When", "Aside", "Reason"].map((name) => screen.getByLabelText(name)) as [HTMLElement, HTMLElement, HTMLElement];
	aside.focus();
	fireEvent.keyDown(aside, { key: "Enter" });
	expect(focused()).toBe("Reason");
	fireEvent.change(why, { target: { value: "Board" } });
	fireEvent.keyDown(why, { key: "Enter" });
	expect(focused()).toBe("When");
	fireEvent.change(when, { target: { value: "2026-12-01" } });
	why.focus();
	fireEvent.keyDown(why, { key: "Enter" });
	await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
	await waitFor(() => expect(focused()).toBe("Open"));
});

test("a field that is left by Escape isn’t gone back to, whatever changes on the page afterwards", async () => {
	function Note() {
		const [words, setWords] = useState("");
		return (
			<main>
				<FocusKeeper />
				<textarea
					aria-label="Note"
					value={words}
					onChange={(event) => setWords(event.target.value)}
					onKeyDown={(event) => event.key === "Escape" && event.currentTarget.blur()}
				/>
				{words && <p>Saved when you leave the field.</p>}
				<button type="button" onClick={() => setWords("")}>
					Clear
				</button>
			</main>
		);
	}
	render(<Note />);
	const note = screen.getByLabelText("Note");
	note.focus();
	// The page changes by what is typed, and is looked at a moment later.
	fireEvent.change(note, { target: { value: "They count on us" } });
	fireEvent.keyDown(note, { key: "Escape" });
	await new Promise((resolve) => setTimeout(resolve, 150));
	expect(document.activeElement).toBe(document.body);
	// It is a field like any other afterwards.
	note.focus();
	fireEvent.click(screen.getByRole("button", { name: "Clear" }));
	await new Promise((resolve) => setTimeout(resolve, 150));
	expect(document.activeElement).toBe(note);
});
