"use client";
import type { ReactNode } from "react";
import { byCount, plural } from "@/core/words/grammar";
import { grouped, instantWords } from "@/ui/format";
import type { RunningView } from "../server/howItRuns";

const WORDS: Readonly<Record<string, string>> = {
	waiting: "waiting",
	"at work": "being done",
	failed: "failed",
	refused: "refused",
	"given up": "given up",
	done: "done",
	reading: "being read",
	imported: "imported",
	known: "here already",
	missing: "didn’t come",
};
const BAD = new Set(["failed", "refused", "given up", "missing"]);

/** `42 waiting, 1 failed`; what failed stands out. */
function Counted({ counts, none }: { counts: Readonly<Record<string, number>>; none: string }) {
	const entries = Object.entries(counts).sort(([a], [b]) => Number(BAD.has(b)) - Number(BAD.has(a)) || a.localeCompare(b));
	if (!entries.length) return <span className="second">{none}</span>;
	return entries.map(([state, n], i) => (
		<span key={state}>
			{i > 0 && ", "}
			{BAD.has(state) ? (
				<strong>
					{n} {WORDS[state] ?? state}
				</strong>
			) : (
				`${n} ${WORDS[state] ?? state}`
			)}
		</span>
	));
}

/** `1 200 deals` */
const counted = (n: number, one: string, many = `${one}s`): string => `${grouped(n)} ${byCount(n, one, many)}`;

const size = (bytes: number): string => {
	const [amount, unit] = bytes >= 2 ** 30 ? [bytes / 2 ** 30, "GB"] : [bytes / 2 ** 20, "MB"];
	return `${amount.toLocaleString("en-GB", { maximumFractionDigits: amount < 10 ? 1 : 0 })} ${unit}`;
};

/** From this share of all on few are left for another machine. */
const MANY = 0.8;

/** What is taken of the database’s connections by all machines together, and what this process has of them. */
function Taken({ taken, most, own, atWork, waiting }: RunningView["database"]["connections"]) {
	const all = `${taken} of ${most} are taken, by all machines together`;
	return (
		<>
			{taken >= MANY * most ? <strong>{all}</strong> : all}
			<span className="second">
				; this process has {own}, {atWork} of them at work
			</span>
			{waiting > 0 && (
				<strong>
					; {waiting} {waiting === 1 ? "waits" : "wait"} for one
				</strong>
			)}
		</>
	);
}

/** How the program runs, in words, for those who look after it. */
export function RunningPanel({ view, zone }: { view: RunningView; zone: string }) {
	const { database, memory, behind, revision, lastImport } = view;
	return (
		<section className="panel">
			<h2>Health of the program</h2>
			<p className="second">
				The process that answers you runs since {instantWords(view.since, zone)}. The same figures are at <code>/metrics</code> where{" "}
				<code>PORCH_LAMP_METRICS</code> is set.
			</p>
			<dl className="running">
				<Line name="Written so far">
					{counted(revision, "write")}; {behind ? <strong>{behind} not read here yet</strong> : "all of them read here"}
				</Line>
				<Line name="Holds">
					{counted(view.deals, "deal")}, {counted(view.people, "person", "people")}, {counted(view.sessions, "open session")}
				</Line>
				<Line name="Work by itself">
					<Counted counts={view.jobs} none="nothing waits, nothing failed today" />
				</Line>
				<Line name="Mails">
					<Counted counts={view.mails} none="nothing waits, nothing was refused" />
				</Line>
				<Line name="Webhooks">
					<Counted counts={view.webhookCalls} none="no call waits or was given up" />
				</Line>
				<Line name="Imports of seven days">
					<Counted counts={view.imports} none="none" />
					{lastImport && <span className="second">; the last one {instantWords(lastImport.at, zone)}</span>}
				</Line>
				<Line name="Feeds of seven days">
					<Counted counts={view.feedFiles} none="no file came" />
				</Line>
				<Line name="Memory of this process">
					{size(memory.whole)}, of it {size(memory.heap)} objects and {size(memory.buffers)} columns and files
				</Line>
				<Line name="Database">
					{size(database.bytes)}
					<span className="second">; largest: {view.largest.map(({ name, bytes }) => `${name} ${size(bytes)}`).join(", ")}</span>
				</Line>
				<Line name="Connections to it">
					<Taken {...database.connections} />
				</Line>
				{view.standby && (
					<Line name="Standby">
						{view.standby.behind === null ? (
							<strong>can’t be reached; long reads go to the primary</strong>
						) : view.standby.behind ? (
							<strong>{plural(view.standby.behind, "write")} behind; long reads go to the primary until it has them</strong>
						) : (
							"has all that was written; long reads go there"
						)}
					</Line>
				)}
			</dl>
		</section>
	);
}

function Line({ name, children }: { name: string; children: ReactNode }) {
	return (
		<div>
			<dt>{name}</dt>
			<dd>{children}</dd>
		</div>
	);
}
