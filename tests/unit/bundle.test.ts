import { describe, expect, test } from "vitest";
import { leavable } from "@/features/import/server/importBundle";
import { checkBundle } from "@/formats/bundle/check";
import type { RawFiles } from "@/formats/bundle/model";
import { readBundle } from "@/formats/bundle/read";
import { UnpackFault, unzip } from "@/formats/bundle/unpack";
import { causesOf } from "@/formats/causes";
import { plainText, readCsv, safeText } from "@/formats/csv";
import { bundleOf, more, NOTHING_KNOWN, SMALL, small } from "../kit/bundle";
import { zipFiles } from "../kit/zip";

const defaults = { timeZone: "Europe/Berlin", baseCurrency: "EUR" };

/** Problems of a bundle as `file:line column reason`. */
function problems(files: RawFiles): string[] {
	const read = readBundle(files, defaults);
	return [...read.problems, ...checkBundle(read.bundle, NOTHING_KNOWN).problems].map((p) => `${p.file}:${p.line ?? ""} ${p.column ?? ""} ${p.reason}`);
}
const rowsOf = (files: RawFiles, file: "deal_versions.csv" | "activities.csv" | "deals.csv") => readBundle(files, defaults).bundle.files.get(file) ?? [];
const delimitedBy = (delimiter: string) =>
	bundleOf(
		Object.fromEntries(
			Object.entries(SMALL).map(([name, lines]) => [name, name.endsWith("json") ? lines : lines.map((line) => line.replaceAll(",", delimiter))]),
		),
	);

describe("a sound bundle", () => {
	test("has no problems, with any of the three delimiters, with a mark and with CRLF", () => {
		for (const delimiter of [",", ";", "\t"]) expect(problems(delimitedBy(delimiter))).toEqual([]);
		const windows = Object.fromEntries(Object.entries(SMALL).map(([name, lines]) => [name, `\uFEFF${lines.join("\r\n")}\r\n`]));
		expect(problems(bundleOf(windows))).toEqual([]);
	});
	test("may hold quotes, line breaks, emoji, right-to-left letters and HTML", () => {
		const subject = 'He said "שלום" 🥐, <script>alert(1)</script>\nand left';
		const files = small({
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				`x1,d1,a1,,call,both,done,2026-11-05T09:00:00Z,rep1,"${subject.replaceAll('"', '""')}",`,
			],
		});
		expect(problems(files)).toEqual([]);
		expect(rowsOf(files, "activities.csv")[0]?.fields.subject).toBe(subject);
	});
	test("reads instants with an offset, in the organisation’s zone, or as a bare day", () => {
		const versions = ["2026-11-12T10:00:00+01:00", "2026-11-13 10:00", "2026-11-14", "2026-11-15T10:00:00.123456Z"];
		const files = small(more("deal_versions.csv", ...versions.map((v) => `d1,${v},Survey,1,EUR,,rep1,,,`)));
		const read = rowsOf(files, "deal_versions.csv").slice(-4);
		expect(read.map((r) => r.fields.at)).toEqual(["2026-11-12T09:00:00Z", "2026-11-13T09:00:00Z", "2026-11-13T23:00:00Z", "2026-11-15T10:00:00.123Z"]);
	});
	test("keeps unknown columns aside and names them", () => {
		const files = small({ "accounts.csv": ["id,name,kind,industry,territory,owner_id,mood", "a1,Mill,customer,,,rep1,sunny", "a2,Oat,prospect,,,rep2,"] });
		const { bundle } = readBundle(files, defaults);
		expect(bundle.unknownColumns).toEqual({ "accounts.csv": ["mood"] });
		expect(bundle.files.get("accounts.csv")?.map((row) => row.extras)).toEqual([{ mood: "sunny" }, {}]);
	});
});

describe("each bad row is reported with its place", () => {
	test.each([
		["an amount with letters", "d1,2026-11-12T09:00:00Z,Survey,12k,EUR,,rep1,,,", /deal_versions.csv:6 amount an amount is written in digits/],
		["an amount beyond 2^53", "d1,2026-11-12T09:00:00Z,Survey,90071992547409.92,EUR,,rep1,,,", /:6 amount .*too large/],
		["more decimals than the currency has", "d1,2026-11-12T09:00:00Z,Survey,1.234,EUR,,rep1,,,", /:6 amount EUR has 2 decimal places/],
		["a currency without a rate", "d1,2026-11-12T09:00:00Z,Survey,1,GBP,,rep1,,,", /:6 currency there is no rate from GBP to EUR/],
		["a day that doesn’t exist", "d1,2026-11-12T09:00:00Z,Survey,1,EUR,2026-02-30,rep1,,,", /:6 close_date there is no such day/],
		["a day written another way", "d1,2026-11-12T09:00:00Z,Survey,1,EUR,30.11.2026,rep1,,,", /:6 close_date a day is written YYYY-MM-DD/],
		["a time that doesn’t exist", "d1,2026-11-12T25:00:00Z,Survey,1,EUR,,rep1,,,", /:6 at there is no such time/],
		["a stage nobody defined", "d1,2026-11-12T09:00:00Z,Dreaming,1,EUR,,rep1,,,", /:6 stage no stage has this name/],
		["an unknown deal", "d9,2026-11-12T09:00:00Z,Survey,1,EUR,,rep1,,,", /:6 deal_id deals.csv has no such id/],
		["an unknown owner", "d1,2026-11-12T09:00:00Z,Survey,1,EUR,,rep9,,,", /:6 owner_id people.csv has no such id/],
		["two versions at one instant", "d1,2026-11-10T10:00:00+01:00,Survey,1,EUR,,rep1,,,", /:6 at two versions of d1 at one instant: line 3/],
		["a category of one’s own", "d1,2026-11-12T09:00:00Z,Survey,1,EUR,,rep1,sure,,", /:6 category this must be one of commit/],
		["too few fields", "d1,2026-11-12T09:00:00Z,Survey", /:6 {2}this row doesn’t have as many fields as the header, which has 10/],
		["a needed blank", ",2026-11-12T09:00:00Z,Survey,1,EUR,,rep1,,,", /:6 deal_id deal_id is blank/],
	])("%s", (_, line, expected) => {
		const found = problems(small(more("deal_versions.csv", line)));
		expect(found).toHaveLength(1);
		expect(found[0]).toMatch(expected);
	});
	test("a category by its other word is taken as left out, and settings of attention are bounded", () => {
		const line = "d1,2026-11-12T09:00:00Z,Survey,1,EUR,,rep1,Omitted,,";
		expect(rowsOf(small(more("deal_versions.csv", line)), "deal_versions.csv").at(-1)?.fields.category).toBe("left_out");
		expect(problems(small({ "settings.json": ['{"attention":{"act":20,"watch":30}}'] }))).toEqual([
			"settings.json: attention attention: watch begins at or below act.",
		]);
		expect(problems(small({ "settings.json": ['{"flags":{"short-runway":{"percentile":60}}}'] }))[0]).toContain("one of 25, 50, 75, 90");
	});
	test("a blank stage, but where nothing else is said: then the deal was taken off the books", () => {
		expect(problems(small(more("deal_versions.csv", "d1,2026-11-12T09:00:00Z,,1,EUR,,rep1,,,")))).toEqual([
			"deal_versions.csv:6 stage stage is blank, and it is required",
		]);
		const gone = small(more("deal_versions.csv", "d1,2026-11-12T09:00:00Z,,,,,,,,"));
		expect(problems(gone)).toEqual([]);
		expect(rowsOf(gone, "deal_versions.csv").at(-1)?.fields).toMatchObject({ deal_id: "d1", stage: null, amount: null });
		// Who did it and why may stand beside it.
		const [header = "", ...lines] = SMALL["deal_versions.csv"] ?? [];
		const told = small({
			"deal_versions.csv": [`${header},by_id,reason`, ...lines.map((line) => `${line},,`), "d1,2026-11-12T09:00:00Z,,,,,,,,,ops,Entered twice"],
		});
		expect(problems(told)).toEqual([]);
		expect(rowsOf(told, "deal_versions.csv").at(-1)?.fields).toMatchObject({ stage: null, by_id: "ops", reason: "Entered twice" });
	});
	test("a currency nobody knows spoils its amount too", () => {
		expect(problems(small(more("deal_versions.csv", "d1,2026-11-12T09:00:00Z,Survey,1,EURO,,rep1,,,"))).join("\n")).toMatch(
			/:6 currency EURO isn’t a currency code/,
		);
	});
	test("an id given twice", () => {
		expect(problems(small(more("deals.csv", "d1,a1,Again,Web,2026-11-02T09:00:00Z,,,")))).toEqual(["deals.csv:5 id the same id as in line 2"]);
	});
	test("a missing column, and what a wrong delimiter looks like", () => {
		expect(problems(small({ "deals.csv": ["id,account_id,name", "d1,a1,Ovens"] }))[0]).toBe("deals.csv:1 created_at the column created_at is missing");
		const piped = problems(small({ "accounts.csv": (SMALL["accounts.csv"] ?? []).map((line) => line.replaceAll(",", "|")) }));
		expect(piped[0]).toMatch(/^accounts.csv:1 id .*delimiter may be wrong/);
	});
	test("a missing file, an empty one, one in another encoding, one with open quotes", () => {
		expect(problems(small({ "stages.csv": null }))).toContain("stages.csv:  this file is missing, and a bundle needs it");
		expect(problems(small({ "settings.json": null }))).toEqual(["settings.json:  this file is missing, and a bundle needs it"]);
		expect(problems(small({ "settings.json": "{}" }))).toEqual([]);
		expect(problems(small({ "accounts.csv": "" }))[0]).toMatch(/accounts.csv:1 {2}the file is empty/);
		const binary = new Map(small()).set("accounts.csv", new Uint8Array([0x69, 0x64, 0x0a, 0x01, 0x0a]));
		expect(problems(binary)[0]).toMatch(/binary data/);
		expect(problems(small({ "accounts.csv": 'id,name,kind,industry,territory,owner_id\na1,"Mill,,,,\n' }))[0]).toMatch(/quotes here don’t match/);
	});
	test("but what is written otherwise and means the same is taken", () => {
		const stages = (SMALL["stages.csv"] ?? []).map((line) =>
			line.replace("0.1,", ".1,").replace("0.3,", "30 %,").replace("Won,won,1,0", "Won,Won,100%,").replace("Lost,lost,0,0", "Lost,lost,0,"),
		);
		const written = {
			"stages.csv": stages,
			"people.csv": (SMALL["people.csv"] ?? []).map((line, i) =>
				i ? line.replace(",2026-10-31", ",2026-10-31 23:00") : "ID,Name,E-mail,Role,Team,Parent team,Active From,Active to".replace("E-mail", "Email"),
			),
			"deals.csv": (SMALL["deals.csv"] ?? []).map((line) => line.split(",").slice(0, 5).join(",")),
			"deal_versions.csv": (SMALL["deal_versions.csv"] ?? []).map((line) =>
				line.replace(",Enquiry,", ", enquiry ,").replace(",Survey,", ",SURVEY,").replace("best_case", "Best case"),
			),
		};
		expect(problems(small(written))).toEqual([]);
		const read = readBundle(small(written), defaults);
		const { good } = checkBundle(read.bundle, NOTHING_KNOWN);
		expect(good.get("deal_versions.csv")?.map((row) => row.fields.stage)).toEqual(["Enquiry", "Survey", "Enquiry", "Terms"]);
		expect(good.get("stages.csv")?.map((row) => [row.fields.probability, row.fields.usual_days])).toEqual([
			["0.1", "10"],
			["0.3", "10"],
			["0.8", "10"],
			["1", null],
			["0", null],
		]);
		expect(good.get("people.csv")?.find((row) => row.fields.id === "gone")?.fields.active_to).toBe("2026-10-31");
		expect(good.get("deals.csv")?.[0]?.fields).not.toHaveProperty("tags");
		const latin = Uint8Array.from("id,name\na1,M\u00fchle\na2,x", (letter) => letter.charCodeAt(0));
		expect(
			readBundle(new Map(small()).set("accounts.csv", latin), { timeZone: "UTC", baseCurrency: "EUR" }).bundle.files.get("accounts.csv")?.[0]?.fields.name,
		).toBe("Mühle");
	});
	test("a day or a column beyond all measure is refused, and a file of nothing but faults isn’t read to its end", () => {
		expect(problems(small(more("deal_versions.csv", "d1,0001-11-12T09:00:00Z,Survey,1,EUR,,rep1,,,")))[0]).toMatch(/days from 1900 to 2200 are allowed/);
		expect(problems(small(more("deal_versions.csv", "d1,2026-11-12T09:00:00Z,Survey,1,EUR,9999-12-31,rep1,,,")))[0]).toMatch(/days from 1900 to 2200/);
		expect(problems(small({ "accounts.csv": [`id,name${",x".repeat(600)}`, "a1"] }))[0]).toMatch(/602 columns; at most 500/);
		const many = readBundle(small({ "accounts.csv": ["id,name", ...Array<string>(30_000).fill("x")] }), { timeZone: "UTC", baseCurrency: "EUR" });
		expect(many.problems.at(-1)?.reason).toMatch(/more than 20,000 rows of this file can’t be read/);
		expect(many.problems.length).toBeLessThan(20_010);
		expect(problems(small({ "settings.json": `{"x":${"[".repeat(40)}${"]".repeat(40)}}` }))[0]).toMatch(/nested more than 20 deep/);
	});
	test("a cause is told once, with what rests on it; a person that others need can’t be left out", () => {
		const roles = (SMALL["people.csv"] ?? []).map((line) => line.replace(",rep,", ",Sales Rep,"));
		const read = readBundle(small({ "people.csv": roles }), defaults);
		const causes = causesOf(read.problems.concat(checkBundle(read.bundle, NOTHING_KNOWN).problems));
		expect(causes.map(({ file, column, reason, count, values, rests }) => [file, column, reason, count, values, rests])).toEqual([
			["people.csv", "role", "this must be one of manager, rep, ops, viewer", 3, ["Sales Rep"], 9],
		]);
		expect(leavable(causes)).toBe(false);
		const bad = readBundle(small(more("deals.csv", "d9,a1,No day,Web,,,,")), defaults);
		expect(leavable(causesOf(bad.problems.concat(checkBundle(bad.bundle, NOTHING_KNOWN).problems)))).toBe(true);
	});
	test("by the line of the file, also after a field with line breaks", () => {
		const files = small({
			"deals.csv": [
				"id,account_id,name,source,created_at,competitor,outcome_reason,tags",
				'd1,a1,"two\nlines",Web,2026-11-02T09:00:00Z,,,',
				"d2,a9,Mixers,Web,2026-11-03T09:00:00Z,,,",
				"d3,a1,Left,Web,2026-10-05T09:00:00Z,,,",
			],
		});
		expect(problems(files)).toEqual([
			"deals.csv:4 account_id accounts.csv has no such id",
			"deal_versions.csv:4 deal_id its row in deals.csv has a problem of its own",
		]);
	});
	test("teams in a circle, an address used twice, settings out of range", () => {
		const people = (SMALL["people.csv"] ?? []).map((line) => line.replace("manager,Firm,,", "manager,Firm,North,"));
		expect(problems(small({ "people.csv": people })).join()).toMatch(/would be above itself/);
		expect(problems(small(more("people.csv", "rep9,Ann,RAE@firm.example,rep,North,Firm,,")))[0]).toMatch(/email rep1 has this e-mail address already/);
		expect(problems(small({ "settings.json": '{"timeZone":"Mars/Base"}' }))[0]).toMatch(/timeZone .*IANA/);
		expect(problems(small({ "settings.json": '{"flags":{"stalled":{"days":0}}}' }))[0]).toMatch(/flags.stalled.days/);
		expect(problems(small({ "settings.json": "{" }))[0]).toMatch(/isn’t JSON/);
	});
});

describe("a zip", () => {
	test("gives the files back that were put in, whatever folder they lie in", async () => {
		const files = await unzip(zipFiles(new Map([...small()].map(([name, bytes]) => [`export/${name}`, bytes]))));
		expect([...files.keys()].sort()).toEqual(Object.keys(SMALL).sort());
	});
	test("that is empty, broken, cut short or too large is refused in words", async () => {
		const zip = zipFiles(small());
		const refusal = (bytes: Uint8Array) =>
			unzip(bytes).then(
				() => "taken",
				(error) => (error instanceof UnpackFault ? error.message : `thrown: ${error}`),
			);
		expect(await refusal(new Uint8Array())).toMatch(/empty/);
		expect(await refusal(new TextEncoder().encode("not a zip at all, just text"))).toMatch(/isn’t a zip/);
		expect(await refusal(zip.slice(0, zip.length - 30))).toMatch(/isn’t a zip|damaged/);
		const spoilt = zip.slice();
		spoilt.fill(7, 60, 200);
		expect(await refusal(spoilt)).toMatch(/damaged/);
		expect(await refusal(new Uint8Array(65 * 2 ** 20))).toMatch(/65 MB; at most 64 MB/);
		expect(await refusal(saying(zip, 300 * 2 ** 20))).toMatch(/300 MB; at most 256 MB/);
		expect(await refusal(zipFiles(new Map()))).toMatch(/no files/);
	});
});

/** A zip whose list says of each file how large it becomes, as one does that was packed to burst what opens it. */
function saying(zip: Uint8Array, size: number): Uint8Array {
	const said = zip.slice();
	const view = new DataView(said.buffer);
	for (let at = 0; at + 28 < said.length; at++) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, size, true);
	return said;
}

describe("cells", () => {
	test("that a spreadsheet would run are written so that it doesn’t, and read back as they were", () => {
		for (const text of ["=1+1", "+49 30", "-5", "@name", "'=quoted", "''@x", "plain", "'tis", ""]) expect(plainText(safeText(text))).toBe(text);
		expect(safeText("=HYPERLINK(1)")).toBe("'=HYPERLINK(1)");
	});
	test("keep the line each record begins on", () => {
		const table = readCsv(new TextEncoder().encode('a,b\n1,"x\ny"\n2,z\n'));
		expect(table.records.map((r) => r.line)).toEqual([2, 4]);
	});
});
