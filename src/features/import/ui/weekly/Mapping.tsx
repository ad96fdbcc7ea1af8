"use client";
import { Form } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import { DayField } from "@/ui/parts/DayField";
import type { WeeklyView } from "../../server/weekly/shapes";
import { Asked, SCALE_CHOICES } from "./Asked";
import { ColumnsTable } from "./ColumnsTable";
import { PeopleNames } from "./PeopleNames";
import type { SetPlan } from "./setPlan";
import type { Chosen } from "./useWeekly";

interface Props {
	readonly view: WeeklyView;
	readonly chosen: Chosen;
	readonly today: string;
	readonly onChoose: (next: Chosen) => void;
}

type Choices<T> = readonly { readonly value: T; readonly label: string }[];

const DATES: Choices<WeeklyPlan["dates"]> = [
	{ value: "ymd", label: "year, month, day" },
	{ value: "dmy", label: "day, month, year" },
	{ value: "mdy", label: "month, day, year" },
	{ value: "serial", label: "a spreadsheet’s count of days" },
];
const MARKS: Choices<WeeklyPlan["decimal"]> = [
	{ value: ".", label: "point: 1,234.50" },
	{ value: ",", label: "comma: 1.234,50" },
];
const SCALES: Choices<WeeklyPlan["scale"]> = SCALE_CHOICES.map(({ scale, label }) => ({ value: scale, label }));

interface PickProps<T> {
	readonly id: string;
	readonly label: string;
	readonly value: T;
	/** it has to be chosen before the file can be taken */
	readonly unsure: boolean;
	readonly choices: Choices<T>;
	readonly onPick: (value: T) => void;
}

function Pick<T extends string | number>({ id, label, value, unsure, choices, onPick }: PickProps<T>) {
	return (
		<Form.Group controlId={id}>
			<Form.Label className="tiny mb-0">{label}</Form.Label>
			<Form.Select
				size="sm"
				value={unsure ? "" : value}
				isInvalid={unsure}
				onChange={(event) => {
					const chosen = choices.find((choice) => String(choice.value) === event.target.value);
					if (chosen) onPick(chosen.value);
				}}
			>
				{unsure && <option value="">choose …</option>}
				{choices.map((choice) => (
					<option key={choice.value} value={choice.value}>
						{choice.label}
					</option>
				))}
			</Form.Select>
		</Form.Group>
	);
}

/** How the file is read: of which day and part it is, where its table stands, which column is which field, how values are written, who and what is meant. */
export function Mapping({ view, chosen, today, onChoose }: Props) {
	const { plan } = view;
	const set = (change: Partial<WeeklyPlan>) => onChoose({ ...chosen, plan: { ...chosen.plan, ...change } });
	return (
		<>
			<Place view={view} set={set} />
			<div className="weekly-how">
				<Form.Group controlId="weekly-day">
					<Form.Label className="tiny mb-0">Exported on</Form.Label>
					<DayField
						size="sm"
						max={today}
						value={chosen.day ?? view.day ?? ""}
						isInvalid={view.day === null}
						onDay={(day) => onChoose({ ...chosen, day: day || null })}
					/>
					{view.day === null && <Form.Text className="worse">The file name has no date; choose the day.</Form.Text>}
				</Form.Group>
				<Form.Group controlId="weekly-covers">
					<Form.Label className="tiny mb-0">Covers</Form.Label>
					<Form.Control
						key={plan.covers}
						size="sm"
						maxLength={100}
						list="weekly-parts"
						placeholder="the whole pipeline"
						title="A region, team or pipeline. Files for different parts are kept side by side, even for the same day."
						defaultValue={plan.covers}
						onBlur={(event) => event.target.value.trim() !== plan.covers && set({ covers: event.target.value.trim() })}
					/>
					<datalist id="weekly-parts">
						{view.parts.map((part) => (
							<option key={part} value={part} />
						))}
					</datalist>
				</Form.Group>
				<Pick id="weekly-dates" label="Dates are written" value={plan.dates} unsure={view.unsure.dates} choices={DATES} onPick={(dates) => set({ dates })} />
				<Pick
					id="weekly-decimal"
					label="Decimals after a"
					value={plan.decimal}
					unsure={view.unsure.amounts}
					choices={MARKS}
					onPick={(decimal) => set({ decimal })}
				/>
				<Pick id="weekly-scale" label="Amounts are" value={plan.scale} unsure={view.unsure.scale} choices={SCALES} onPick={(scale) => set({ scale })} />
			</div>
			<Asked view={view} set={set} />
			<ColumnsTable view={view} set={set} />
			<StageNames view={view} chosen={chosen} set={set} />
			<PeopleNames view={view} set={set} />
		</>
	);
}

/** Where the table stands in the file: which sheet, which line is the header, what is below it. */
function Place({ view, set }: { view: WeeklyView; set: SetPlan }) {
	const { plan, above, below } = view;
	return (
		<div className="small-text weekly-place">
			{view.sheets.length > 1 && (
				<label htmlFor="weekly-sheet">
					The sheet{" "}
					<Form.Select
						id="weekly-sheet"
						size="sm"
						className="d-inline-block w-auto"
						value={plan.sheet ?? ""}
						onChange={(event) => set({ sheet: event.target.value })}
					>
						{view.sheets.map((sheet) => (
							<option key={sheet}>{sheet}</option>
						))}
					</Form.Select>
				</label>
			)}
			<span>
				{view.written === "workbook" ? "A workbook" : `Written in ${view.written}`}; the header is in line{" "}
				<Form.Control
					key={plan.header}
					size="sm"
					type="number"
					min={1}
					className="d-inline-block setting"
					aria-label="Line of the header"
					defaultValue={plan.header}
					onBlur={(event) => {
						const line = Number(event.target.value);
						if (line >= 1 && line !== plan.header) set({ header: Math.floor(line) });
					}}
				/>
				{above > 0 && `, ${byCount(above, "one line", `${above} lines`)} above it left out`}.
			</span>
			{below.length > 0 && (
				<Form.Check
					id="weekly-below"
					label={`Leave out ${
						below.length === 1
							? `line ${below[0]?.line}, which looks`
							: `${below.length} lines (${below
									.slice(0, 8)
									.map(({ line }) => line)
									.join(", ")}${below.length > 8 ? " …" : ""}), which look`
					} like a total, a heading or a note: “${below[0]?.words}”`}
					checked={plan.leaveBelow}
					onChange={(event) => set({ leaveBelow: event.target.checked })}
				/>
			)}
		</div>
	);
}

/** Which of our stages theirs are, where the names don't say. */
function StageNames({ view, chosen, set }: { view: WeeklyView; chosen: Chosen; set: SetPlan }) {
	const theirNames = Object.keys(chosen.plan?.stages ?? {});
	if (!view.stages.length || (!view.unknownStages.length && !theirNames.length)) return null;
	return (
		<fieldset className="mt-2">
			<legend className="fs-6 fw-bold mb-1">Match stages</legend>
			{[...new Set([...theirNames, ...view.unknownStages.map((stage) => stage.name)])].map((theirs) => (
				<div key={theirs} className="setting-line me-4 mb-1">
					<label htmlFor={`weekly-stage-${theirs}`}>“{theirs}” is</label>
					<Form.Select
						id={`weekly-stage-${theirs}`}
						size="sm"
						className="w-auto"
						value={chosen.plan?.stages?.[theirs] ?? ""}
						onChange={(event) => set({ stages: { ...chosen.plan?.stages, [theirs]: event.target.value } })}
					>
						<option value="">choose …</option>
						{view.stages.map((stage) => (
							<option key={stage}>{stage}</option>
						))}
					</Form.Select>
				</div>
			))}
		</fieldset>
	);
}
