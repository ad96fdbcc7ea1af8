import pg from "pg";
import { type Line, median, ms } from "./measure";
import { signedInAs, startServer } from "./pages";

const AIM = 150;
const TURNS = 15;
const BUSY = "bench-busy";
const ACTIVITIES = 5000;

/** What is asked of accounts: their lists, and one of them that much was said with, its log searched too. */
const ASKED = [
	["Accounts, by last contact, warm", "/accounts"],
	["Whose turn it is, warm", "/accounts/turns"],
	["The page of an account with 5 000 activities, warm", `/accounts/${BUSY}`],
	["A search of its log, warm", `/api/v1/accounts/${BUSY}/activities?q=oven+plan&limit=40`],
	["A person’s page, warm", "/people/tobias"],
] as const;

/** Screens of accounts and people on a server of one process. */
export async function benchAccounts(url: string): Promise<Line[]> {
	await makeBusy(url);
	const { base, stop } = await startServer(url, { PORCH_LAMP_PROCESSES: "1" });
	const cookie = await signedInAs("helena");
	const lines: Line[] = [];
	for (const [what, path] of ASKED) {
		const times: number[] = [];
		for (let i = 0; i <= TURNS; i++) {
			const start = performance.now();
			const answer = await fetch(`${base}${path}`, { headers: { cookie } });
			await answer.text();
			if (!answer.ok) throw new Error(`${path} answers ${answer.status}`);
			if (i > 0) times.push(performance.now() - start);
		}
		const time = median(times.sort((a, b) => a - b));
		lines.push({ what, measured: ms(time), aim: `under ${AIM} ms`, met: time < AIM });
	}
	await stop();
	return lines;
}

/** An account that has been spoken to every day for years. */
async function makeBusy(url: string): Promise<void> {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	await client.query("insert into accounts (id, name, kind, owner_id) values ($1, 'Busy Bakeries', 'customer', 'tobias') on conflict do nothing", [BUSY]);
	await client.query(
		`insert into activities (id, account_id, contact_ids, kind, direction, state, at, recorded_at, by_id, subject, body)
		select 'bench-' || i, $1, '{}', (array['call', 'email', 'meeting'])[1 + i % 3], (array['in', 'out', 'both'])[1 + i % 3], 'done',
			timestamptz '2026-11-24' - i * interval '7 hours', timestamptz '2026-11-24' - i * interval '7 hours', 'tobias',
			'About the ' || (array['oven', 'proofer', 'mixer', 'hall', 'plan'])[1 + i % 5] || ' ' || i, repeat('What was said of the oven and of the plan, at some length. ', 8)
		from generate_series(1, ${ACTIVITIES}) i on conflict do nothing`,
		[BUSY],
	);
	await client.query("update revision set number = number + 1");
	await client.query("insert into change_log (revision, part) select number, 'accounts' from revision");
	await client.query("analyze activities");
	await client.end();
}
