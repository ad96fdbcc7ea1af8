import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "vitest";
import releases from "@/data/releases.json";
import { type Release, takenAway } from "../kit/migrations";

const sources = (folder: string): string[] =>
	readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
		const path = join(folder, entry.name);
		return entry.isDirectory() ? sources(path) : /\.tsx?$/.test(entry.name) && !entry.name.includes(".test.") ? [path] : [];
	});

test("whatever a process keeps by itself stands in docs/cluster.md with where else it is, and nothing that it doesn’t keep", () => {
	const kept = sources("src").flatMap((file) =>
		file.endsWith("processSingleton.ts")
			? []
			: [...readFileSync(file, "utf8").matchAll(/processSingleton\(\s*(?:"([^"]+)"|`([^`]+)`)/g)].map(
					([, plain, made]) => plain ?? made?.replace(/\$\{.*\}/, "…"),
				),
	);
	const [, section = ""] = readFileSync("docs/cluster.md", "utf8").split("## Where what is kept");
	const rows = (section.split("\n## ")[0] ?? "").split("\n").filter((line) => line.startsWith("| "));
	const told = rows.flatMap((row) => [...(row.split("|")[3] ?? "").matchAll(/`([^`]+)`/g)].map(([, name]) => name));
	expect([...new Set(kept)].sort()).toEqual(told.sort());
});

describe("migrations", () => {
	const folder = "src/data/migrations";
	const first = (releases as Release[])[0]?.last ?? "";
	const names = readdirSync(folder).filter((name) => name.endsWith(".sql"));
	test("add only, since two versions may serve side by side", () => {
		const late = names.map((name) => name.replace(".sql", "")).filter((name) => name > first);
		expect(late.flatMap((name) => takenAway(name, readFileSync(join(folder, `${name}.sql`), "utf8"), releases as Release[]))).toEqual([]);
		expect(names).toContain(`${first}.sql`);
	});

	test.each([
		["alter table deals drop column x;", "takes a column away"],
		['ALTER TABLE "deals" RENAME COLUMN "a" TO "b";', "renames"],
		["alter table deals rename to sales;", "renames"],
		["drop table if exists deals;", "takes a table away"],
		['ALTER TABLE "deals" ALTER COLUMN "a" SET DATA TYPE bigint;', "changes a column’s type"],
		["alter table deals alter column a type bigint;", "changes a column’s type"],
		["alter table deals alter column a set not null;", "makes a column stricter"],
		["alter table deals alter column a drop default;", "takes a default away"],
		["alter table deals add column a text not null;", "adds a column that older programs don’t fill"],
		["alter table deals add constraint c check (a > 0);", "adds a rule that older programs don’t know"],
		["truncate deals;", "takes away"],
	])("that take away are refused: %s", (text, words) => {
		expect(takenAway("0060_x", text, releases as Release[]).join()).toContain(words);
		// Said to be unused since a release that is known, and came before, it may.
		expect(takenAway("0060_x", `-- unused since release 0.1.0\n${text}`, releases as Release[])).toEqual([]);
		expect(takenAway("0059_passkeys", `-- unused since release 0.1.0\n${text}`, releases as Release[])).not.toEqual([]);
		expect(takenAway("0060_x", `-- unused since release 9.9.9\n${text}`, releases as Release[])).not.toEqual([]);
	});

	test.each([
		"create table a (id text primary key not null); alter table a add constraint c check (id <> '');",
		"alter table deals add column a text not null default '';",
		"alter table deals add column a text;",
		'create index "i" on "deals" ("a");',
		"alter table deals alter column a drop not null;",
		"-- drop table deals;\nalter table deals add constraint f foreign key (a) references b(id);",
	])("that add are taken: %s", (text) => {
		expect(takenAway("0060_x", text, releases as Release[])).toEqual([]);
	});
});
