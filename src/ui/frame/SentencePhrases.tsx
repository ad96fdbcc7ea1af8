"use client";
import { Dropdown } from "react-bootstrap";
import { Choice, Phrase } from "./Phrase";
import { DayForm, MarkForm, RangeForm } from "./SentenceForms";
import type { PhraseProps, SeenProps } from "./sentenceChanges";

export function Whose({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Whose deals" words={sentence.whose.label}>
			<Choice on={sentence.whose.key === "all"} pick={() => set({ whose: "all" })}>
				{choices.everyone ? "Everyone’s" : "All my deals"}
			</Choice>
			{choices.teams.length > 0 && <Dropdown.Header>Teams, with those below</Dropdown.Header>}
			{choices.teams.map((team) => (
				<Choice key={team.key} on={team.key === sentence.whose.key} pick={() => set({ whose: team.key })}>
					{team.label}
				</Choice>
			))}
			{choices.people.length > 1 && <Dropdown.Header>Reps</Dropdown.Header>}
			{choices.people.length > 1 &&
				choices.people.map((person) => (
					<Choice key={person.key} on={person.key === sentence.whose.key} pick={() => set({ whose: person.key })}>
						{person.label} <span className="third">{person.team}</span>
					</Choice>
				))}
		</Phrase>
	);
}

export function Due({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Closing when" words={sentence.due.label}>
			{choices.quarters.map((quarter) => (
				<Choice key={quarter.key} on={quarter.key === sentence.due.key} pick={() => set({ due: quarter.key })}>
					{quarter.label}
				</Choice>
			))}
			<Dropdown.Divider />
			<Choice on={sentence.due.key === "any"} pick={() => set({ due: "any" })}>
				Any period
			</Choice>
			<Choice on={sentence.due.key === "none"} pick={() => set({ due: "none" })}>
				No close date
			</Choice>
			<RangeForm start={sentence.due.start} end={sentence.due.end} pick={(range) => set({ due: range })} />
		</Phrase>
	);
}

export function Seen({ view, setSeen }: SeenProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Seen on which day" words={sentence.seen.label}>
			<Choice on={!sentence.seen.past} pick={() => setSeen(null)}>
				Today
			</Choice>
			{choices.marks.map((mark) => (
				<Choice key={mark.key} on={mark.key === sentence.seen.day} pick={() => setSeen(mark.key)}>
					{mark.label}
				</Choice>
			))}
			<DayForm label="Another day" day={sentence.seen.day} most={view.today} pick={setSeen} />
		</Phrase>
	);
}

export function Against({ view, set }: PhraseProps) {
	const { sentence, choices } = view;
	return (
		<Phrase label="Against which earlier day" words={sentence.against.label}>
			<Choice on={sentence.against.key === "week"} pick={() => set({ against: "week" })}>
				One week before
			</Choice>
			{sentence.due.start && sentence.due.start <= sentence.seen.day && (
				<Choice on={sentence.against.key === "start"} pick={() => set({ against: "start" })}>
					Start of the period
				</Choice>
			)}
			{choices.lastMark && (
				<Choice on={sentence.against.key === "mark"} pick={() => set({ against: "mark" })}>
					Last mark <span className="third">{choices.lastMark}</span>
				</Choice>
			)}
			{choices.marks.length > 0 && <Dropdown.Header>Marks</Dropdown.Header>}
			{choices.marks.map((mark) => (
				<Choice key={mark.key} on={sentence.against.key !== "mark" && mark.key === sentence.against.day} pick={() => set({ against: mark.key })}>
					{mark.label}
				</Choice>
			))}
			<DayForm label="Another day" day={sentence.against.day} most={sentence.seen.day} pick={(day) => set({ against: day })} />
			{choices.mayMark && !sentence.seen.past && <MarkForm />}
		</Phrase>
	);
}
