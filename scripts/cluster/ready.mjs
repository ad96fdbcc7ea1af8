import { join } from "node:path";
import { run } from "../lib/command.mjs";
import { postgresBin } from "../lib/packages.mjs";
import { HOST } from "./plan.mjs";

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const PATIENCE = 120_000;

/** What an address answers, or null. */
export const ask = (address) => fetch(address, { signal: AbortSignal.timeout(2000) }).catch(() => null);

/** Whether an application server has everything it needs to answer. */
export const answers = async ({ ports }, name) => Boolean((await ask(`http://${HOST}:${ports[name]}/readyz`))?.ok);

/** Waits until something holds. @throws where it doesn’t within two minutes, unless `over` says to give up before */
export async function until(what, holds, over = () => false) {
	const began = Date.now();
	while (!over()) {
		if (await holds()) return;
		if (Date.now() - began > PATIENCE) throw new Error(`${what} didn’t come up within two minutes`);
		await sleep(200);
	}
}

/** Which database is the primary: 1 or 2; null while none is. */
export async function primaryOf({ ports }) {
	for (const n of [1, 2]) if ((await ask(`http://${HOST}:${ports[`rest${n}`]}/primary`))?.status === 200) return n;
	return null;
}

/** Whether the other database has all that is acknowledged, and may take over. */
export async function standbyReady({ ports }) {
	for (const n of [1, 2]) if ((await ask(`http://${HOST}:${ports[`rest${n}`]}/synchronous`))?.status === 200) return true;
	return false;
}

/** Makes the application’s user and its database, once. */
export async function makeDatabase({ urls, passwords, folder }) {
	const url = new URL(urls.keeper);
	const psql = (database, sql) =>
		run(
			join(postgresBin(), "psql"),
			["-X", "-q", "-At", "-v", "ON_ERROR_STOP=1", "-h", url.hostname, "-p", url.port, "-U", url.username, "-d", database, "-c", sql],
			{ cwd: folder, env: { PGPASSWORD: url.password } },
		);
	await psql(
		"postgres",
		`do $$ begin
			if not exists (select from pg_roles where rolname = 'porchlamp_app') then
				create role porchlamp_app login nosuperuser nocreatedb nocreaterole password '${passwords.app}';
			end if;
		end $$`,
	);
	await psql("porchlamp", "select 1").catch(() => psql("postgres", "create database porchlamp owner porchlamp_app"));
}
