import { fireEvent, render, within } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { RunProvider, useRun } from "@/ui/run";

function Writer() {
	const run = useRun();
	const [said, setSaid] = useState("");
	const write = async () => {
		const done = await run("people.endSession", { id: "s1", except: null });
		setSaid(done.ok ? "done" : done.detail);
	};
	return (
		<button type="button" onClick={() => void write()}>
			{said || "Write"}
		</button>
	);
}

/** The server is well whenever it is asked that. */
beforeEach(() => vi.stubGlobal("fetch", async () => new Response()));
afterEach(() => vi.unstubAllGlobals());

test.each([
	["UnrecognizedActionError", "This page belongs to an older version of the program. Reload it; nothing was changed. Copy what you wrote before you do."],
	["TypeError", "Couldn’t send: the connection or the server may be down. Nothing was changed, and what you wrote is still here; try again."],
])("what a server answers with %s is said", async (name, words) => {
	const run = () => Promise.reject(Object.assign(new Error("x"), { name }));
	const { container } = render(
		<RunProvider server={{ run, signOut: async () => undefined }}>
			<Writer />
		</RunProvider>,
	);
	fireEvent.click(within(container).getByRole("button"));
	await within(container).findByRole("button", { name: words });
});

test("what broke off in the midst is sent once more, under the same name", async () => {
	const names: string[] = [];
	const run = async (_: string, __: unknown, once: string) => {
		names.push(once);
		if (names.length === 1) throw new TypeError("broke off");
		return { ok: true as const, result: null };
	};
	const { container } = render(
		<RunProvider server={{ run, signOut: async () => undefined }}>
			<Writer />
		</RunProvider>,
	);
	fireEvent.click(within(container).getByRole("button"));
	await within(container).findByRole("button", { name: "done" });
	expect(names).toHaveLength(2);
	expect(new Set(names).size).toBe(1);
});
