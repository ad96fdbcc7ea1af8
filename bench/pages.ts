import { type ChildProcess, spawn } from "node:child_process";
import { createServer } from "node:net";
import pg from "pg";
import { versionCount } from "@/core/history/columns";
import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation } from "@/data/organisation/load";
import { hashPassword, signIn } from "@/features/people/server/signIn";
import { connection } from "../src/data/db";
import { type ChangePart, people } from "../src/data/schema";
import { type Line, median, ms } from "./measure";

const WARM_AIM = 150;
const COLD_AIM = 2000;
const FOLLOW_AIM = 400;
const PASSWORD = "a lamp on the bench";

/** Signs somebody in; gives the cookie. */
export async function signedInAs(who: string): Promise<string> {
	await connection()
		.db.update(people)
		.set({ passwordHash: await hashPassword(PASSWORD) });
	const { token } = await signIn({ email: `${who}@emberwick.example`, password: PASSWORD }, { source: "bench", agent: "" });
	return `porch_lamp_session=${token}`;
}

/** What a page costs the server, cold after its start and warm, with its long part where it comes after it. */
export async function benchPages(url: string, say: (words: string) => void): Promise<Line[]> {
	const cookies = new Map<string, string>();
	for (const who of ["helena", "ruth"]) cookies.set(who, await signedInAs(who));
	const lines: Line[] = [];
	for (const [name, path, rest] of [
		["Deals", "/deals?due=any", "/deals/rows?due=any"],
		["Changes", "/changes?due=any", null],
		["Tasks, a thousand of them", "/tasks?due=any&limit=1000&state=done", null],
		["Period", "/period?due=2026-Q4", null],
		["The deals behind a figure of the period", "/deals?due=2026-Q4&f=category.in.commit", "/deals/rows?due=2026-Q4"],
	] as const) {
		say(`starting the server for ${name}`);
		const { base, stop } = await startServer(url, { PORCH_LAMP_PROCESSES: "1" });
		const asker =
			(who: string) =>
			async (part: string, more: RequestInit = {}) => {
				const answer = await fetch(`${base}${part}`, { ...more, headers: { cookie: cookies.get(who) as string, origin: base, ...more.headers } });
				const text = await answer.text();
				if (!answer.ok) throw new Error(`${part} answers ${answer.status}: ${text}`);
				return text;
			};
		const ask = asker("helena");
		const timed = async (asks: typeof ask) => {
			const start = performance.now();
			await asks(path);
			if (rest) await asks(rest);
			return performance.now() - start;
		};
		const warmed = async (asks: typeof ask, before: () => Promise<unknown> = async () => undefined) => {
			const times: number[] = [];
			for (let i = 0; i < 15; i++) {
				await before();
				times.push(await timed(asks));
			}
			return median(times.sort((a, b) => a - b));
		};
		const cold = await timed(ask);
		const warm = await warmed(ask);
		const team = await warmed(asker("ruth"));
		const [some] = (JSON.parse(await ask("/api/v1/deals?status=open&limit=1")) as { items: { id: string }[] }).items;
		let count = 0;
		const written = await warmed(ask, async () => {
			const { versionId } = JSON.parse(await ask(`/api/v1/deals/${some?.id}`)) as { versionId: number };
			const body = JSON.stringify({ nextStep: `Ring them back, time ${++count}` });
			await ask(`/api/v1/deals/${some?.id}`, { method: "PATCH", body, headers: { "content-type": "application/json", "if-match": String(versionId) } });
		});
		const what = `whole answer${rest ? " and its rows" : ""}`;
		lines.push({ what: `${name}, warm, ${what}`, measured: ms(warm), aim: `under ${WARM_AIM} ms`, met: warm < WARM_AIM });
		lines.push({ what: `${name}, warm, ${what}, for a team`, measured: ms(team), aim: `under ${WARM_AIM} ms`, met: team < WARM_AIM });
		lines.push({
			what: `${name}, the first after somebody's write`,
			measured: `${ms(written)}, ${(written / warm).toFixed(1)} × a warm one`,
			aim: "within 1.3 times a warm one",
			met: written <= 1.3 * warm,
		});
		lines.push({ what: `${name}, cold: the first page after the server's start`, measured: ms(cold), aim: `${COLD_AIM} ms`, met: cold <= COLD_AIM });
		await stop();
	}
	return lines;
}

interface Touch {
	readonly deals?: readonly string[];
	readonly part?: ChangePart;
}

/** Loading everything anew, and following what another process writes. */
export async function benchOrganisation(url: string): Promise<Line[]> {
	const { db } = connection();
	const start = performance.now();
	const organisation = await loadOrganisation(db, 0);
	const load = performance.now() - start;
	await currentOrganisation(db);
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	/** From another connection's commit to this process having read it: the median of some writes, each with what it touched. */
	const follow = async (writes: readonly Touch[], work = ""): Promise<number> => {
		const times: number[] = [];
		for (const { deals = [], part } of writes) {
			await client.query("begin");
			if (work) await client.query(work);
			const { rows } = await client.query("update revision set number = number + 1 returning number");
			await client.query("insert into change_log (revision, deal_id) select $1, unnest($2::text[])", [rows[0].number, deals]);
			if (part) await client.query("insert into change_log (revision, part) values ($1, $2)", [rows[0].number, part]);
			await client.query("commit");
			const committed = performance.now();
			while ((await currentOrganisation(db)).revision < Number(rows[0].number)) await new Promise((resolve) => setTimeout(resolve, 1));
			times.push(performance.now() - committed);
		}
		return median(times.sort((a, b) => a - b));
	};
	const ids = organisation.deals.filter((_, i) => i % 80 === 0).map((deal) => deal.id);
	const some = ids.slice(0, 20);
	const imported = some.map((id) => `${id} again`);
	const copies = `
		insert into people (id, name, role) values ('!new', 'New Here', 'rep') on conflict do nothing;
		insert into deals select (jsonb_populate_record(d, jsonb_build_object('id', id || ' again'))).* from deals d where id in (${some.map((id) => `'${id}'`).join(",")});
		insert into deal_versions (deal_id, valid_from, valid_to, stage, amount, currency, close_date, owner_id, category)
			select deal_id || ' again', valid_from, valid_to, stage, amount, currency, close_date, '!new', category from deal_versions where deal_id in (${some.map((id) => `'${id}'`).join(",")})`;
	const away = "delete from deal_versions where deal_id like '% again'; delete from deals where id like '% again'; delete from people where id = '!new'";
	const writes = [
		{ what: "to one deal", time: await follow([1, 2, 3, 4, 5, 6, 7].map((i) => ({ deals: [organisation.deals[i * 100]?.id ?? ""] }))) },
		{
			what: `of an import (${ids.length + some.length} deals, ${some.length} of them new, and a new person)`,
			time: await follow([{ deals: [...ids, ...imported], part: "settings" }], copies),
		},
		{ what: "of an import that is taken back", time: await follow([{ deals: imported }], away) },
		{ what: "of a mark", time: await follow([1, 2, 3].map(() => ({ part: "marks" as const }))) },
		{ what: "of the settings", time: await follow([1, 2, 3].map(() => ({ part: "settings" as const }))) },
	];
	await client.end();
	const versions = versionCount(organisation.company.history).toLocaleString("en");
	return [
		{
			what: `loading the columns and all else of ${organisation.deals.length.toLocaleString("en")} deals, ${versions} versions`,
			measured: ms(load),
			aim: "",
			met: null,
		},
		...writes.map(({ what, time }) => ({
			what: `following another process's write ${what}`,
			measured: ms(time),
			aim: `${FOLLOW_AIM} ms`,
			met: time <= FOLLOW_AIM,
		})),
	];
}

/** The program as it runs: its host, on as many processes as asked for. */
export async function startServer(url: string, env: Record<string, string> = {}): Promise<{ base: string; pid: number; stop: () => Promise<void> }> {
	const port = await freePort();
	const child: ChildProcess = spawn(process.execPath, [...(process.env.BENCH_NODE_ARGS?.split(" ") ?? []), ".next/host.mjs"], {
		stdio: "ignore",
		env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1", DATABASE_URL: url, PORT: String(port), ...env },
	});
	const base = `http://127.0.0.1:${port}`;
	for (let tries = 0; tries < 200; tries++) {
		const up = await fetch(`${base}/sign-in`).then(
			(answer) => answer.ok,
			() => false,
		);
		if (up) break;
		await new Promise((resolve) => setTimeout(resolve, 100));
	}
	return {
		base,
		pid: child.pid ?? 0,
		stop: () =>
			new Promise((resolve) => {
				child.once("exit", () => resolve());
				child.kill("SIGTERM");
			}),
	};
}

const freePort = () =>
	new Promise<number>((resolve) => {
		const server = createServer();
		server.listen(0, "127.0.0.1", () => {
			const { port } = server.address() as { port: number };
			server.close(() => resolve(port));
		});
	});
