import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";

// The page while the server is away or has become another: nothing that is open or typed is lost by it.
type Answers = (Response | Error)[];
const page = (build = "one", body: BodyInit = "page") => new Response(body, { headers: { "x-porch-lamp-build": build, "content-type": "text/x-component" } });
const broken = () =>
	page(
		"one",
		new ReadableStream({
			start(controller) {
				controller.enqueue(new TextEncoder().encode("half"));
				controller.error(new Error("broke off"));
			},
		}),
	);

/** A fetch that gives these answers one after another, under the patience of the page; `healthy` is what the server says of itself. */
async function patient(answers: Answers, healthy: () => boolean = () => true) {
	const asked: string[] = [];
	const plain = async (input: RequestInfo | URL) => {
		asked.push(String(input));
		const next = answers.shift();
		if (!next || next instanceof Error) throw next ?? new Error("asked too often");
		return next;
	};
	vi.stubGlobal("fetch", async () => {
		if (!healthy()) throw new Error("away");
		return new Response();
	});
	const { patientFetch } = await import("@/ui/frame/reach/patientFetch");
	const reach = await import("@/ui/frame/reach/reach");
	return { read: patientFetch(plain as typeof fetch, "one"), asked, reach };
}
const RSC = { headers: { rsc: "1" } };
const here = () => `${location.pathname}?_rsc=a1`;

beforeEach(() => vi.resetModules());
afterEach(() => {
	cleanup();
	vi.unstubAllGlobals();
	sessionStorage.clear();
});

describe("a page that is read anew", () => {
	test.each<[string, () => Answers]>([
		["a connection that failed", () => [new Error("reset")]],
		["a proxy that has no server behind it", () => [new Response("bad gateway", { status: 502 })]],
		["a server that is about to start", () => [new Response(null, { status: 503 }), new Error("refused")]],
		["an answer that broke off", () => [broken()]],
	])("outlasts %s", async (_, troubles) => {
		const { read, asked } = await patient([...troubles(), page()]);
		const answer = await read(here(), RSC);
		expect(await answer.text()).toBe("page");
		expect(answer.ok).toBe(true);
		expect(asked.length).toBe(troubles().length + 1);
	});
	test("waits while the server is away, says so, and goes on when it is back", async () => {
		let healthy = false;
		const { read, reach } = await patient([new Error("reset"), page()], () => healthy);
		const answer = read(here(), RSC);
		await waitFor(() => expect(reach.reachNow()).toBe("away"));
		healthy = true;
		expect(await (await answer).text()).toBe("page");
		expect(reach.reachNow()).toBe("here");
	});
	test("gives up on a page that fails though the server is well", async () => {
		const { read, asked } = await patient(Array.from({ length: 9 }, () => new Response(null, { status: 500 })));
		expect((await read(here(), RSC)).status).toBe(500);
		expect(asked.length).toBe(4);
	}, 20_000);
	test("keeps what the framework asks of an answer", async () => {
		const given = page();
		Object.defineProperty(given, "url", { value: "http://localhost/other?_rsc=a1" });
		Object.defineProperty(given, "redirected", { value: true });
		const { read } = await patient([given]);
		const answer = await read(here(), RSC);
		expect([answer.url, answer.redirected, answer.headers.get("content-type")]).toEqual(["http://localhost/other?_rsc=a1", true, "text/x-component"]);
	});
	test("of another build isn’t shown: the page stays, and is said to be old for good", async () => {
		const { read, reach } = await patient([page("two")]);
		const settled = vi.fn();
		void read(here(), RSC).then(settled, settled);
		await waitFor(() => expect(reach.reachNow()).toBe("older"));
		await reach.untilReached();
		expect([settled.mock.calls.length, reach.reachNow()]).toEqual([0, "older"]);
	});
});

describe("what is left as it is", () => {
	test.each<[string, string, RequestInit]>([
		["an action", "/deals", { method: "POST", headers: { rsc: "1" } }],
		["what is read ahead", "/deals?_rsc=a1", { headers: { rsc: "1", "next-router-prefetch": "1" } }],
		["a file", "/table/deals", {}],
	])("%s fails at once", async (_, address, init) => {
		const { read, asked } = await patient([new Error("reset")]);
		await expect(read(address, init)).rejects.toThrow("reset");
		expect(asked.length).toBe(1);
	});
	test("another page of another build is loaded by the framework", async () => {
		const { read, reach } = await patient([page("two")]);
		expect(await (await read("/elsewhere?_rsc=a1", RSC)).text()).toBe("page");
		expect(reach.reachNow()).toBe("here");
	});
	test("what nobody waits for any more isn’t asked for again", async () => {
		const { read, asked } = await patient([new Error("aborted"), page()]);
		await expect(read(here(), { ...RSC, signal: AbortSignal.abort() })).rejects.toThrow("aborted");
		expect(asked.length).toBe(1);
	});
});

describe("what was typed when a page is loaded again", () => {
	test("is kept without passwords and what was left alone, shown, copied and put away", async () => {
		const { noteFirst, reloadKeeping, typedHere } = await import("@/ui/frame/reach/typed");
		const { ReachBar } = await import("@/ui/frame/reach/ReachBar");
		document.addEventListener("focusin", noteFirst);
		render(
			<form>
				<label>
					Task text <textarea defaultValue="Call them" />
				</label>
				<input aria-label="Untouched" defaultValue="as it was" />
				<input aria-label="Password" type="password" />
			</form>,
		);
		for (const [label, text] of [
			["Task text", "Call the buyer on Friday"],
			["Password", "porch-light"],
		] as const) {
			fireEvent.focusIn(screen.getByLabelText(label));
			fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
		}
		fireEvent.focusIn(screen.getByLabelText("Untouched"));
		expect(typedHere()).toEqual([{ label: "Task text", text: "Call the buyer on Friday" }]);
		vi.stubGlobal("location", { ...location, reload: () => undefined });
		reloadKeeping();
		cleanup();
		render(<ReachBar build="one" />);
		await screen.findByText("Call the buyer on Friday");
		fireEvent.click(screen.getByRole("button", { name: "Discard" }));
		expect([screen.queryByText("Call the buyer on Friday"), sessionStorage.length]).toEqual([null, 0]);
	});
	test("is nothing where what was kept can’t be read", async () => {
		sessionStorage.setItem("porch-lamp-typed", "{");
		const { typedBefore } = await import("@/ui/frame/reach/typed");
		expect(typedBefore()).toEqual([]);
	});
});
