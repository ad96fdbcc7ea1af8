"use client";
import type { ReactNode } from "react";
import { Alert, Form } from "react-bootstrap";
import { DATE_FORMS } from "@/formats/weekly/plan";
import { longDate, money } from "@/ui/format";
import type { WeeklyView } from "../../server/weekly/shapes";
import type { SetPlan } from "./setPlan";

interface ChoiceProps {
	readonly title: string;
	readonly about: ReactNode;
	readonly name: string;
	readonly choices: readonly { readonly key: string; readonly label: ReactNode; readonly choose: () => void }[];
}

/** Something that the file doesn't say by itself: until one of the readings is chosen, nothing can be imported. */
function Choice({ title, about, name, choices }: ChoiceProps) {
	return (
		<Alert variant="warning" className="mt-2 mb-0 small-text" role="group" aria-label={title}>
			<p className="mb-2">
				<b>{title}</b> {about}
			</p>
			{choices.map(({ key, label, choose }) => (
				<Form.Check key={key} type="radio" name={name} id={`${name}-${key}`} label={label} checked={false} onChange={choose} />
			))}
		</Alert>
	);
}

const SCALE_WORDS = { 0: "in whole units", 3: "in thousands", 6: "in millions", 9: "in billions" } as const;
export const SCALE_CHOICES = Object.entries(SCALE_WORDS).map(([scale, words]) => ({ scale: Number(scale) as 0 | 3 | 6 | 9, label: words }));

/** What can be read in several ways, each with what it makes of the first rows or of the total. */
export function Asked({ view, set }: { view: WeeklyView; set: SetPlan }) {
	const { unsure } = view;
	return (
		<>
			{unsure.encoding && <Encoding view={view} set={set} />}
			{unsure.dates && <DateOrder view={view} set={set} />}
			{unsure.scale && <Unit view={view} set={set} />}
			{unsure.amounts && <DecimalMark view={view} set={set} />}
			{unsure.lines && <WhichLine view={view} set={set} />}
		</>
	);
}

type AskedProps = Parameters<typeof Asked>[0];

/** The column of amounts with its first cells: `Value (1.5, 2)`. */
function amountsWords({ plan, columns }: WeeklyView): string {
	const samples = columns.find(({ name }) => name === plan.columns.amount)?.samples ?? [];
	return `${plan.columns.amount} (${samples.join(", ")})`;
}

const Encoding = ({ view, set }: AskedProps) => (
	<Choice
		title="Choose the text encoding"
		about="It can’t be told from the file’s text. Choose the line that is spelled correctly:"
		name="weekly-encoding"
		choices={view.encodings.map(({ encoding, sample }) => ({
			key: encoding.replace(/\W/g, ""),
			label: (
				<>
					<b>{sample}</b> ({encoding})
				</>
			),
			choose: () => set({ encoding }),
		}))}
	/>
);

const DateOrder = ({ view, set }: AskedProps) => (
	<Choice
		title="Choose the date order"
		about="Dates can be read in several ways:"
		name="weekly-date-reading"
		choices={view.dates.map(({ order, samples }) => ({
			key: order,
			label: (
				<>
					{DATE_FORMS[order].split(":")[0]}:{" "}
					{samples.map(({ text, day }, i) => (
						<span key={text}>
							{i > 0 && ", "}
							{text} is <b>{day === null ? "no day" : longDate(day)}</b>
						</span>
					))}
				</>
			),
			choose: () => set({ dates: order }),
		}))}
	/>
);

const Unit = ({ view, set }: AskedProps) => (
	<Choice
		title="Choose the unit of amounts"
		about={`A line above the table mentions thousands or millions; the column ${amountsWords(view)} doesn’t say.`}
		name="weekly-scale-reading"
		choices={SCALE_CHOICES.slice(0, 3).map(({ scale, label }) => ({ key: String(scale), label, choose: () => set({ scale }) }))}
	/>
);

const DecimalMark = ({ view, set }: AskedProps) => (
	<Choice
		title="Choose the decimal mark"
		about={`Those in ${amountsWords(view)} can be read in two ways${view.before ? "" : ", and no earlier file shows which is right"}:`}
		name="weekly-reading"
		choices={view.amounts.map(({ mark, total }) => ({
			key: mark === "." ? "point" : "comma",
			label: (
				<>
					with a {mark === "." ? "point" : "comma"} before the decimals: <b>{money(total, view.plan.currency)}</b> in total
				</>
			),
			choose: () => set({ decimal: mark }),
		}))}
	/>
);

function WhichLine({ view: { differing }, set }: AskedProps) {
	const first = differing.slice(0, 3).map(({ id, lines, words }) => `${id} is on lines ${lines.join(", ")}, which differ in ${words.join(", ")}`);
	return (
		<Choice
			title="Choose the line that counts"
			about={`${first.join("; ")}${differing.length > 3 ? " …" : ""}. Amounts are added up; the other fields come from:`}
			name="weekly-lines"
			choices={(["first", "last"] as const).map((which) => ({ key: which, label: `the ${which} line`, choose: () => set({ lines: which }) }))}
		/>
	);
}
