"use client";
import Link from "next/link";
import { byCount, plural } from "@/core/words/grammar";
import type { Habit } from "@/features/patterns";
import { nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import { useLookAgain } from "@/ui/useLookAgain";
import type { PersonPage } from "../server/readPerson";

/** What the past says of somebody beside all others: what differs by more than chance, and folded away what doesn't. */
export function PersonPast({ view: { habits, seen, from, tasks, contacts } }: { view: PersonPage }) {
	const rate = (value: number | null) => (value === null ? "–" : value.toFixed(1));
	return (
		<section className="panel" aria-label="What the past says">
			<h2>What the past says</h2>
			<Habits habits={habits} />
			<h3 className="person-part">Lately</h3>
			<ul className="rows small-text mb-0">
				<li>
					<span>
						Tasks since {nearDate(from, seen)}
						<span className="d-block tiny second">
							{tasks.onTime} on time, {tasks.late} late, {tasks.overdue} overdue, {tasks.open} open; flags cleared {tasks.out}, still lit {tasks.lit}
						</span>
					</span>
					<span className="num">{tasks.given}</span>
				</li>
				{contacts && (
					<li>
						<span>
							Contacts a working day, the last four weeks
							<span className="d-block tiny second">
								usual {rate(contacts.usual)}; {plural(contacts.touches, "contact")}
								{contacts.notDone > 0 && `, ${plural(contacts.notDone, "planned activity", "planned activities")} not done`}
							</span>
						</span>
						<span className="num">{rate(contacts.perDay)}</span>
					</li>
				)}
			</ul>
		</section>
	);
}

function Habits({ habits: { answer, progress } }: Pick<PersonPage, "habits">) {
	useLookAgain(progress !== null);
	if (!answer)
		return (
			<p className="small-text second" role="status">
				The past is being read; it appears here when it is done.
			</p>
		);
	const apart = answer.filter((one) => one.apart);
	const others = answer.filter((one) => !one.apart);
	const tested = answer.filter((one) => one.tested).length;
	return (
		<>
			<ul className="rows small-text mb-1">
				{apart.map((one) => (
					<HabitLine key={one.label} habit={one} />
				))}
				{!apart.length && <li className="second">Nothing differs from others by more than chance.</li>}
			</ul>
			<p className="tiny second mb-1">
				{plural(tested, "figure")} had enough to be compared with all others’; {apart.length} {byCount(apart.length, "differs", "differ")} by more than chance
				(one in ten of these may still be chance). Others have other deals, so a difference doesn’t say why.
			</p>
			{others.length > 0 && (
				<details className="small-text">
					<summary>{plural(others.length, "other figure")}: no clear difference, or too few</summary>
					<ul className="rows mb-0">
						{others.map((one) => (
							<HabitLine key={one.label} habit={one} />
						))}
					</ul>
				</details>
			)}
		</>
	);
}

function HabitLine({ habit: { label, own, others, better, place, apart, tested } }: { habit: Habit }) {
	const address = useAddress();
	const verdict = apart ? (better === null ? "" : better ? ", theirs is better" : ", theirs is worse") : tested ? "" : ", too few to compare";
	return (
		<li>
			<span>
				{place ? <Link href={address("/patterns", { show: place, whose: null })}>{label}</Link> : label}
				<span className={`d-block tiny ${apart && better === false ? "worse" : apart && better ? "gained" : "second"}`}>
					others {others}
					{verdict}
				</span>
			</span>
			<span className="num text-nowrap">{own}</span>
		</li>
	);
}

/** What somebody promised in rounds, and what came of it. */
export function Promised({ view: { promised, seen, name } }: { view: PersonPage }) {
	const address = useAddress();
	const { counts, lines, more } = promised;
	const said = Object.entries(counts).filter(([, n]) => n > 0);
	return (
		<section className="panel" aria-label="Promised">
			<h2>Promised in rounds</h2>
			{lines.length > 0 && <p className="tiny second mb-1">In the last half year: {said.map(([fate, n]) => `${n} ${fate}`).join(", ")}.</p>}
			<ul className="rows small-text mb-0">
				{lines.map((one) => (
					<li key={one.id}>
						<span>
							<Link href={address(one.dealId ? `/deals/${encodeURIComponent(one.dealId)}` : "/tasks", { task: one.id })}>{one.title}</Link>
							<span className="d-block tiny second">
								{[one.deal, one.due ? `by ${nearDate(one.due, seen)}` : `given ${nearDate(one.given, seen)}`].filter(Boolean).join(", ")}
							</span>
						</span>
						<span className={`text-nowrap ${one.fate === "not done" ? "worse" : ""}`}>{one.fate}</span>
					</li>
				))}
				{!lines.length && <li className="second">{name} promised nothing in a round of the last half year.</li>}
			</ul>
			{more > 0 && <p className="tiny second mb-0 mt-1">{more} more</p>}
		</section>
	);
}
