import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { inRoot } from "../lib/paths.mjs";
import { freeFrom } from "../lib/ports.mjs";

export const HOST = "127.0.0.1";
const FIRST_PORT = 7100;
/** What is listened at, by name. A new port is one line here. */
const PORTS = ["etcd", "etcdPeer", "rest1", "rest2", "postgres1", "postgres2", "primary", "standby", "pooler", "application1", "application2"];

/**
 * What the cluster of a folder is made of: ports, passwords, addresses. It stays the same from one start to the next.
 * `pagesPort` is where browsers come; `between` gives the ports at which the databases reach each other, where something
 * stands between them.
 */
export async function planOf(folder, pagesPort, between) {
	const file = join(folder, "plan.json");
	mkdirSync(folder, { recursive: true, mode: 0o711 });
	const known = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
	const ports = known?.ports ?? {};
	let next = FIRST_PORT;
	for (const name of PORTS) {
		if (ports[name]) continue;
		ports[name] = await freeFrom(next);
		next = ports[name] + 1;
	}
	const secret = () => randomBytes(24).toString("hex");
	const passwords = known?.passwords ?? { keeper: secret(), app: secret(), replication: secret() };
	writeFileSync(file, JSON.stringify({ ports, passwords }), { mode: 0o600 });
	const at = (user, password, port) => `postgres://${user}:${password}@${HOST}:${port}/porchlamp`;
	return {
		folder,
		ports: { ...ports, pages: pagesPort },
		passwords,
		reachedAt: [1, 2].map((n) => `${HOST}:${between?.[n - 1] ?? ports[`postgres${n}`]}`),
		urls: {
			keeper: at("porchlamp", passwords.keeper, ports.primary),
			direct: at("porchlamp_app", passwords.app, ports.primary),
			standby: at("porchlamp_app", passwords.app, ports.standby),
			pooled: at("porchlamp_app", passwords.app, ports.pooler),
		},
	};
}

/** A configuration from its template in docs/cluster, with its blanks filled in. @throws where a blank is left */
export function filled(template, values) {
	return readFileSync(inRoot("docs", "cluster", template), "utf8").replaceAll(/\{\{(\w+)\}\}/g, (_, name) => {
		if (values[name] === undefined) throw new Error(`${template} asks for ${name}`);
		return String(values[name]);
	});
}
