import { join } from "node:path";
import { postgresBin } from "../lib/packages.mjs";
import { root } from "../lib/paths.mjs";
import { withoutRoot } from "../lib/server.mjs";
import { filled, HOST } from "./plan.mjs";

/**
 * The parts of a cluster, in the order in which they are started: each with its program, what it is for, and the files it
 * reads. `as` is the user it runs as where the start is root’s. A new part is a function here and a line in the list.
 */
export const partsOf = (plan) => [etcd(plan), database(plan, 1), database(plan, 2), proxy(plan), pooler(plan), application(plan, 1), application(plan, 2)];

const etcd = ({ ports }) => ({
	name: "etcd",
	words: "knows which database is the primary",
	program: "etcd",
	args: (folder) => ["--config-file", join(folder, "etcd.yml")],
	files: (folder) => ({
		"etcd.yml": filled("etcd.yml", {
			name: "etcd1",
			host: HOST,
			port: ports.etcd,
			peerPort: ports.etcdPeer,
			folder: join(folder, "data"),
			members: `etcd1=http://${HOST}:${ports.etcdPeer}`,
		}),
	}),
	as: "postgres",
});

const database = ({ ports, passwords, reachedAt }, n) => ({
	name: `database${n}`,
	words: `PostgreSQL at ${ports[`postgres${n}`]}, led by Patroni`,
	program: "patroni",
	args: (folder) => [join(folder, "patroni.yml")],
	files: (folder) => ({
		"patroni.yml": filled("patroni.yml", {
			name: `database${n}`,
			host: HOST,
			restPort: ports[`rest${n}`],
			port: ports[`postgres${n}`],
			reachedAt: reachedAt[n - 1],
			etcd: `${HOST}:${ports.etcd}`,
			folder,
			bin: postgresBin(),
			keeperPassword: passwords.keeper,
			replicationPassword: passwords.replication,
			network: `${HOST}/32`,
		}),
	}),
	as: "postgres",
});

const proxy = ({ ports }) => {
	const lines = (list) => list.map((line) => `    ${line}`).join("\n");
	return {
		name: "proxy",
		words: "HAProxy, which leads to a server that answers and to the primary",
		program: "haproxy",
		args: (folder) => ["-db", "-f", join(folder, "haproxy.cfg")],
		files: (folder) => ({
			"away.http": filled("away.http", {}),
			"haproxy.cfg": filled("haproxy.cfg", {
				folder,
				bind: `${HOST}:${ports.pages}`,
				primaryBind: `${HOST}:${ports.primary}`,
				standbyBind: `${HOST}:${ports.standby}`,
				applications: lines([1, 2].map((n) => `server application${n} ${HOST}:${ports[`application${n}`]} check cookie application${n}`)),
				databases: lines([1, 2].map((n) => `server database${n} ${HOST}:${ports[`postgres${n}`]} check port ${ports[`rest${n}`]}`)),
			}),
		}),
		as: "postgres",
	};
};

const pooler = ({ ports, passwords }) => ({
	name: "pooler",
	words: "PgBouncer, which shares connections among transactions",
	program: "pgbouncer",
	args: (folder) => [join(folder, "pgbouncer.ini")],
	files: (folder) => ({
		"users.txt": `"porchlamp_app" "${passwords.app}"\n`,
		"pgbouncer.ini": filled("pgbouncer.ini", {
			host: HOST,
			port: ports.pooler,
			databaseHost: HOST,
			databasePort: ports.primary,
			users: join(folder, "users.txt"),
		}),
	}),
	as: "postgres",
});

const application = ({ ports, urls }, n) => {
	const [program, before, as] = withoutRoot();
	return {
		name: `application${n}`,
		words: `an application server at ${ports[`application${n}`]}`,
		program,
		args: () => [...before, join(root, ".next", "host.mjs")],
		files: () => ({}),
		env: {
			NODE_ENV: "production",
			NEXT_TELEMETRY_DISABLED: "1",
			DATABASE_URL: urls.pooled,
			PORCH_LAMP_DIRECT: urls.direct,
			PORCH_LAMP_STANDBY: urls.standby,
			PORCH_LAMP_PROXY: HOST,
			PORCH_LAMP_PROCESSES: process.env.PORCH_LAMP_PROCESSES ?? "1",
			PORT: String(ports[`application${n}`]),
		},
		ids: as,
		/** ends without breaking off what it answers */
		leaves: "SIGUSR2",
	};
};
