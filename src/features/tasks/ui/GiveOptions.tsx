"use client";
import { useState } from "react";
import { Button, Col, Form, Row } from "react-bootstrap";
import { byCount } from "@/core/words/grammar";
import { shortDate } from "@/ui/format";
import { DayField } from "@/ui/parts/DayField";
import { IMPORTANCE, IMPORTANCE_WORDS, type Importance } from "../table/importance";
import { type Draft, type Giving, inWorkingDays, type Options } from "./giving";
import { RepeatChooser } from "./RepeatChooser";

interface Props {
	readonly draft: Draft;
	readonly giving: Giving;
	readonly set: (part: Partial<Giving>) => void;
}

/** When a task is due and whose it is; and, unfolded, all that it may have besides. */
export function GiveOptions({ draft, giving, set }: Props) {
	const [more, setMore] = useState(false);
	const { options } = giving;
	const option = (part: Partial<Options>) => set({ options: { ...options, ...part } });
	const words = inWorkingDays(draft, giving.due);
	const closes = inWorkingDays(draft, draft.periodCloses);
	return (
		<>
			<Row className="g-3 mb-2">
				{giving.way !== "kit" && (
					<Col sm={5}>
						<Form.Group controlId="task-due">
							<Form.Label>Due</Form.Label>
							<DayField value={giving.due} min={draft.today} required onDay={(day) => set({ due: day })} />
							<Form.Text>
								{words ?? shortDate(giving.due)}; the period closes {shortDate(draft.periodCloses)}
								{closes && `, ${closes}`}
							</Form.Text>
						</Form.Group>
					</Col>
				)}
				<Col sm={7}>
					<Form.Group controlId="task-for">
						<Form.Label>For</Form.Label>
						<Form.Select value={giving.to} onChange={(event) => set({ to: event.target.value })}>
							<option value="owner">{draft.deals.length ? byCount(draft.deals.length, "the deal’s owner", "each deal’s owner") : "me"}</option>
							<optgroup label="One person">
								{draft.people.map(({ id, name }) => (
									<option key={id} value={`person:${id}`}>
										{name}
									</option>
								))}
							</optgroup>
							<optgroup label="Anyone of a team">
								{draft.teams.map((team) => (
									<option key={team} value={`team:${team}`}>
										{team}
									</option>
								))}
							</optgroup>
						</Form.Select>
					</Form.Group>
				</Col>
			</Row>
			{!more ? (
				<Button variant="link" size="sm" className="p-0 mb-2" aria-expanded={false} onClick={() => setMore(true)}>
					Importance, checklist, repeat, reminder …
				</Button>
			) : (
				<More draft={draft} giving={giving} option={option} />
			)}
		</>
	);
}

interface MoreProps {
	readonly draft: Draft;
	readonly giving: Giving;
	readonly option: (part: Partial<Options>) => void;
}

/** Importance, what it is done by, its checklist, how it repeats and when it reminds. */
function More({ draft, giving, option }: MoreProps) {
	const { options } = giving;
	return (
		<fieldset className="give-more">
			<legend className="visually-hidden">More</legend>
			<Row className="g-3">
				{giving.way !== "kit" && <TextOptions draft={draft} options={options} option={option} />}
				<Col xs={12}>
					<RepeatChooser rule={options.repeat} onRule={(repeat) => option({ repeat })} />
				</Col>
				<Col sm={5}>
					<Form.Group controlId="task-remind">
						<Form.Label>Remind on</Form.Label>
						<DayField
							size="sm"
							min={draft.today}
							max={giving.way === "kit" ? undefined : giving.due}
							value={options.remindOn ?? ""}
							onDay={(day) => option({ remindOn: day || null })}
						/>
					</Form.Group>
				</Col>
				{draft.deals.length > 0 && (
					<Col sm={7} className="d-flex align-items-end">
						<Form.Check
							id="task-remind-unless"
							label="only if the buyer hasn’t answered by then"
							disabled={options.remindOn === null}
							checked={options.remindUnlessAnswered}
							onChange={(event) => option({ remindUnlessAnswered: event.target.checked })}
						/>
					</Col>
				)}
			</Row>
		</fieldset>
	);
}

/** What a kit says by itself: importance, what a task is done by, and its checklist. */
function TextOptions({ draft, options, option }: Pick<MoreProps, "draft" | "option"> & { readonly options: Options }) {
	return (
		<>
			<Col sm={6}>
				<Form.Group controlId="task-importance">
					<Form.Label>Importance</Form.Label>
					<Form.Select size="sm" value={options.importance} onChange={(event) => option({ importance: event.target.value as Importance })}>
						{IMPORTANCE.map((key) => (
							<option key={key} value={key}>
								{IMPORTANCE_WORDS[key]}
							</option>
						))}
					</Form.Select>
				</Form.Group>
			</Col>
			{draft.deals.length > 0 && (
				<Col sm={6}>
					<Form.Group controlId="task-asks">
						<Form.Label>Done by logging</Form.Label>
						<Form.Select size="sm" value={options.asks ?? ""} onChange={(event) => option({ asks: event.target.value || null })}>
							<option value="">nothing</option>
							{draft.kinds.map((kind) => (
								<option key={kind} value={kind}>
									{kind}
								</option>
							))}
						</Form.Select>
					</Form.Group>
				</Col>
			)}
			<Col xs={12}>
				<Form.Group controlId="task-checklist">
					<Form.Label>Checklist, one item per line</Form.Label>
					<Form.Control
						as="textarea"
						size="sm"
						rows={2}
						value={options.checklist.join("\n")}
						onChange={(event) => option({ checklist: event.target.value.split("\n") })}
						onBlur={() => option({ checklist: options.checklist.map((line) => line.trim()).filter(Boolean) })}
					/>
				</Form.Group>
			</Col>
		</>
	);
}
