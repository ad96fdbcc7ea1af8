import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Around, type Found, fatesOf, strangersOf } from "@/core/contact/intake";
import { readMeetings } from "@/formats/calendar/meetings";
import { readCards, writeCards } from "@/formats/cards";
import { readMail } from "@/formats/mail/readMail";

const NOW = Date.UTC(2026, 10, 24, 9);
const around: Around = {
	ours: new Map([
		["rae@firm.example", 2],
		["nora@firm.example", 1],
	]),
	theirs: new Map([["ada@millrace.example", "c1"]]),
	there: new Set(["<known@x>"]),
	now: NOW,
	tonight: Date.UTC(2026, 10, 24, 23),
	archive: false,
};
const mail = (change: Partial<Found> = {}): Found => ({
	key: "<m@x>",
	sort: "message",
	at: NOW - 1000,
	from: "ada@millrace.example",
	to: ["rae@firm.example"],
	automatic: false,
	cancelled: false,
	...change,
});
const fate = (change: Partial<Found>, otherwise: Partial<Around> = {}) => fatesOf([mail(change)], { ...around, ...otherwise })[0];

describe("what becomes of a message", () => {
	test("it comes in, goes out, or is among ourselves, by who wrote it and to whom", () => {
		expect(fate({})).toEqual({ fate: "new", direction: "in", by: 2, contacts: ["c1"], planned: false });
		expect(fate({ from: "nora@firm.example", to: ["ada@millrace.example", "rae@firm.example"] })).toMatchObject({ direction: "out", by: 1, contacts: ["c1"] });
		expect(fate({ from: "nora@firm.example" })).toMatchObject({ direction: "none", by: 1, contacts: [] });
		expect(fate({ from: "new@millrace.example" })).toMatchObject({ direction: "in", by: 2, contacts: [] });
	});
	test("what can’t be meant is left out, and why is said", () => {
		const why = (change: Partial<Found>, otherwise?: Partial<Around>) => {
			const one = fate(change, otherwise);
			return one?.fate === "left" ? one.why : one?.fate;
		};
		expect(why({ at: null })).toBe("date");
		expect(why({ at: Date.UTC(1970, 0, 1) })).toBe("date");
		expect(why({ at: Date.UTC(2026, 10, 25) })).toBe("future");
		expect(why({ at: around.tonight - 1 })).toBe("new");
		expect(why({ automatic: true })).toBe("automatic");
		expect(why({ from: "x@other.example", to: ["y@other.example"] })).toBe("ours");
		expect(why({ key: "<known@x>" })).toBe("there");
		expect(why({ from: "new@millrace.example" }, { archive: true })).toBe("theirs");
		expect(why({ from: "nora@firm.example" }, { archive: true })).toBe("theirs");
		expect(why({}, { archive: true })).toBe("new");
	});
	test("twice is once, whatever the order", () => {
		expect(fatesOf([mail(), mail()], around).map((one) => (one.fate === "left" ? one.why : one.fate))).toEqual(["new", "twice"]);
		fc.assert(
			fc.property(fc.array(fc.constantFrom("a", "b", "c", "<known@x>"), { maxLength: 12 }), (keys) => {
				const fates = fatesOf(
					keys.map((key) => mail({ key })),
					around,
				);
				expect(fates.filter((one) => one.fate === "new")).toHaveLength(new Set(keys.filter((key) => key !== "<known@x>")).size);
			}),
		);
	});
	test("a meeting is a conversation, planned while it is to come, cancelled it is left out", () => {
		expect(fate({ sort: "meeting", at: NOW + 86_400_000, from: "rae@firm.example", to: ["ada@millrace.example"] })).toEqual({
			fate: "new",
			direction: "both",
			by: 2,
			contacts: ["c1"],
			planned: true,
		});
		expect(fate({ sort: "meeting", from: "rae@firm.example", to: ["nora@firm.example"] })).toMatchObject({ direction: "none", planned: false });
		expect(fate({ sort: "meeting", cancelled: true })).toEqual({ fate: "left", why: "cancelled" });
	});
	test("strangers are counted once a message, those of ours and theirs aren’t among them", () => {
		const people = (...addresses: string[]) => ({ people: addresses.map((address) => ({ address, name: address === "z@x" ? "Zoe" : "" })) });
		expect(strangersOf([people("z@x", "z@x", "rae@firm.example"), people("z@x", "a@x", "ada@millrace.example", "")], around)).toEqual([
			{ address: "z@x", name: "Zoe", times: 2 },
			{ address: "a@x", name: "", times: 1 },
		]);
	});
});

describe("a message", () => {
	const read = (text: string, encoding: BufferEncoding = "utf8") => readMail(Buffer.from(text.replaceAll("\n", "\r\n"), encoding));
	test("is read through nested parts and odd charsets", async () => {
		const nested = await read(
			`From: =?iso-8859-1?Q?Ada_L=F6f?= <Ada@Millrace.example>
To: Rae <rae@firm.example>, Team: one@x.example, two@x.example;
Cc: Nora <NORA@firm.example>
Subject: =?utf-8?B?R3LDvMOfZQ==?=
Date: Tue, 24 Nov 2026 10:00:00 +0100
Message-ID: <a@x>
Content-Type: multipart/mixed; boundary=one

--one
Content-Type: multipart/alternative; boundary=two

--two
Content-Type: text/plain; charset=windows-1252

Caf\u00e9 \u0080 100
--two
Content-Type: text/html

<p>no</p>
--two--
--one
Content-Type: application/pdf; name=x.pdf
Content-Transfer-Encoding: base64

JVBERg==
--one--
`,
			"latin1",
		);
		expect(nested).toMatchObject({ from: "ada@millrace.example", fromName: "Ada Löf", subject: "Grüße", at: Date.UTC(2026, 10, 24, 9), messageId: "<a@x>" });
		expect(nested?.to.map(({ address }) => address)).toEqual(["rae@firm.example", "one@x.example", "two@x.example", "nora@firm.example"]);
		expect(nested?.text).toBe("Café € 100");
	});
	test("without a date, or with one that is none, has none", async () => {
		const dated = async (line: string) => (await read(`From: a@x.example\n${line}Subject: x\n\nDate: Tue, 24 Nov 2026 10:00:00 +0100\n`))?.at;
		expect([await dated(""), await dated("Date:\n"), await dated("Date: yesterday\n")]).toEqual([null, null, null]);
		expect(await read("Subject: nobody wrote it\n\nx\n")).toBeNull();
	});
});

describe("meetings of a calendar", () => {
	const noon = (iso: string) => Date.parse(`${iso}T11:00:00Z`);
	const calendar = (...lines: string[]) => ["BEGIN:VCALENDAR", "VERSION:2.0", ...lines, "END:VCALENDAR"].join("\n");
	const event = (...lines: string[]) => ["BEGIN:VEVENT", ...lines, "END:VEVENT"];
	test("have people by address, an hour or a day, and are cancelled by their status or their file", () => {
		const { meetings, problems } = readMeetings(
			calendar(
				...event(
					"UID:1",
					"SUMMARY:Trial bake",
					"DTSTART:20261126T090000Z",
					"ORGANIZER;CN=Rae:MAILTO:Rae@firm.example",
					"ATTENDEE;CN=Ada:mailto:ada@millrace.example",
				),
				...event("UID:2", "SUMMARY:Fair", "DTSTART;VALUE=DATE:20261127", "STATUS:CANCELLED"),
				...event("UID:3", "SUMMARY:No day"),
			),
			NOW,
			noon,
		);
		expect(meetings).toMatchObject([
			{
				key: "1",
				at: Date.UTC(2026, 10, 26, 9),
				organizer: { address: "rae@firm.example", name: "Rae" },
				people: [{ address: "ada@millrace.example", name: "Ada" }],
				cancelled: false,
			},
			{ key: "2", at: noon("2026-11-27"), organizer: null, cancelled: true },
		]);
		expect(problems).toEqual(["No day has no day, and is left out."]);
		expect(readMeetings(calendar("METHOD:CANCEL", ...event("UID:1", "SUMMARY:x", "DTSTART:20261126T090000Z")), NOW, noon).meetings[0]?.cancelled).toBe(true);
		expect(readMeetings("not a calendar", NOW, noon).problems[0]).toMatch(/can’t be read as a calendar/);
	});
	test("that come again are told time by time up to the next, without those taken out, the moved one once", () => {
		const { meetings } = readMeetings(
			calendar(
				...event("UID:w", "SUMMARY:Weekly", "DTSTART:20261103T090000Z", "RRULE:FREQ=WEEKLY", "EXDATE:20261110T090000Z"),
				...event("UID:w", "SUMMARY:Weekly, later", "DTSTART:20261117T140000Z", "RECURRENCE-ID:20261117T090000Z"),
			),
			NOW,
			noon,
		);
		expect(meetings.map(({ title, at }) => [title, new Date(at).toISOString().slice(0, 13)])).toEqual([
			["Weekly", "2026-11-03T09"],
			["Weekly", "2026-11-24T09"],
			["Weekly", "2026-12-01T09"],
			["Weekly, later", "2026-11-17T14"],
		]);
		expect(new Set(meetings.map(({ key }) => key)).size).toBe(4);
	});
	test("that never come, come each second, or until a day, hold nothing up", () => {
		const times = (start: string, rule: string) =>
			readMeetings(calendar(...event("UID:n", "SUMMARY:Again", start, `RRULE:${rule}`)), NOW, noon).meetings.map(({ at }) =>
				new Date(at).toISOString().slice(0, 13),
			);
		for (const often of ["DAILY", "WEEKLY", "MONTHLY", "YEARLY", "HOURLY"])
			expect(times("DTSTART:20261103T090000Z", `FREQ=${often};BYMONTH=2;BYMONTHDAY=30`), often).toEqual([]);
		expect(times("DTSTART:20261103T090000Z", "FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30")).toEqual(["2026-11-03T09"]);
		expect(times("DTSTART:19700101T090000Z", "FREQ=YEARLY;COUNT=3")).toEqual([]);
		// The last day is among them, whether it is given as a day or as an instant.
		for (const until of ["20261117", "20261117T090000Z"])
			expect(times("DTSTART:20261103T090000Z", `FREQ=WEEKLY;UNTIL=${until}`), until).toEqual(["2026-11-03T09", "2026-11-10T09", "2026-11-17T09"]);
		// Of many those nearest to today are told.
		expect([times("DTSTART:20200101T090000Z", "FREQ=DAILY").length, times("DTSTART:20200101T090000Z", "FREQ=DAILY").at(-1)]).toEqual([60, "2026-11-25T09"]);
	});
});

describe("cards", () => {
	test("are read of versions 3 and 4, and what is written is read again", () => {
		const { cards, problems } = readCards(
			"BEGIN:VCARD\nVERSION:3.0\nN:Loaf;Ada;;;\nFN;CHARSET=UTF-8:Ada Loaf\nTITLE:Owner\\, baker\nEMAIL;TYPE=work:Ada@Millrace.example\nEND:VCARD\nBEGIN:VCARD\nVERSION:4.0\nN:Only;Nia;;;\nEND:VCARD\nBEGIN:VCARD\nVERSION:4.0\nEND:VCARD\nBEGIN:VCARD\nnonsense\nEND:VCARD\n",
		);
		expect(cards).toEqual([
			{ name: "Ada Loaf", title: "Owner, baker", email: "ada@millrace.example" },
			{ name: "Nia Only", title: null, email: null },
		]);
		expect(problems).toHaveLength(2);
		const text = writeCards(cards.map((card, i) => ({ ...card, uid: `u${i}`, company: "Millrace; Bread", role: null })));
		expect(text.match(/VERSION:4.0/g)).toHaveLength(2);
		expect(readCards(text)).toEqual({ cards, problems: [] });
	});
});
