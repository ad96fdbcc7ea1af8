"use client";
import { useState } from "react";
import { Alert, Button, Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { instantWords, nearDate } from "@/ui/format";
import { type Result, useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

/** The secret address of one's calendar, and a file of another calendar taken in. */
export function CalendarPanel({ since, zone, mayTake }: { since: string | null; zone: string; mayTake: boolean }) {
	const [path, setPath] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const renew = async () => {
		const made = await act(run("calendars.renew", {}), since ? "New address created. The old address no longer works." : "Address created.");
		if (made) setPath(`${window.location.origin}${made.result.path}`);
	};
	return (
		<section className="panel">
			<h2>My tasks and meetings in my calendar</h2>
			<p className="second">
				A calendar program that subscribes to this address shows your open tasks on their due days, and what is planned on your deals. Anyone with the address
				can read it, so keep it private. If others have it, replace it.
			</p>
			{path && (
				<Alert variant="success">
					<label htmlFor="feed-address">The address, shown this once:</label>
					<Form.Control id="feed-address" size="sm" readOnly value={path} onFocus={({ target }) => target.select()} />
				</Alert>
			)}
			<p>
				{since ? `You have an address, created on ${instantWords(since, zone)}. ` : "You have no address yet. "}
				<Button size="sm" variant="outline-primary" onClick={() => void renew()}>
					{since ? "Replace address" : "Create address"}
				</Button>
				{since && (
					<Button
						size="sm"
						variant="link"
						onClick={() => {
							setPath(null);
							void act(run("calendars.remove", {}), "Address deleted. It no longer works.");
						}}
					>
						Delete
					</Button>
				)}
			</p>
			{mayTake && <TakeIn />}
		</section>
	);
}

type Preview = Result<"calendars.preview">;

function TakeIn() {
	// Long: one form, its fields in their order.
	const [text, setText] = useState("");
	const [preview, setPreview] = useState<Preview | null>(null);
	const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
	const [as, setAs] = useState<"task" | "activity">("task");
	const [dealId, setDealId] = useState("");
	const run = useRun();
	const act = useAct();
	const look = async (file: File | undefined) => {
		if (!file) return;
		const read = await file.text();
		const found = await act(run("calendars.preview", { text: read }));
		if (!found) return;
		setText(read);
		setPreview(found.result);
		setChosen(new Set(found.result.items.flatMap(({ uid, known, warning }) => (known || warning?.includes("passed") ? [] : [uid]))));
	};
	const take = async () => {
		const done = await act(run("calendars.take", { text, uids: [...chosen], as, dealId: dealId || null }), ({ made }) =>
			as === "task" ? `${plural(made, "task")} imported as tasks of yours.` : `${plural(made, "meeting")} planned.`,
		);
		if (done) setPreview(null);
	};
	return (
		<>
			<h3>Import a calendar file</h3>
			<Form.Group controlId="ics-file" className="mb-2">
				<Form.Label className="second">Events and to-dos of an .ics file become tasks of your own, after you have checked them.</Form.Label>
				<Form.Control type="file" size="sm" accept=".ics,text/calendar" onChange={(event) => void look((event.target as HTMLInputElement).files?.[0])} />
			</Form.Group>
			{preview && (
				<>
					{preview.problems.map((words) => (
						<p key={words} className="worse small-text mb-1">
							{words}
						</p>
					))}
					{preview.items.length > 0 && (
						<>
							<Items items={preview.items} chosen={chosen} setChosen={setChosen} />
							<div className="d-flex flex-wrap gap-2">
								<Form.Select size="sm" className="w-auto" aria-label="Import as" value={as} onChange={({ target }) => setAs(target.value as "task")}>
									<option value="task">as tasks of mine</option>
									<option value="activity">as meetings planned on a deal</option>
								</Form.Select>
								<Form.Select size="sm" className="w-auto" aria-label="About the deal" value={dealId} onChange={({ target }) => setDealId(target.value)}>
									<option value="">{as === "task" ? "not about a deal" : "choose the deal"}</option>
									{preview.deals.map(({ id, name }) => (
										<option key={id} value={id}>
											{name}
										</option>
									))}
								</Form.Select>
								<Button size="sm" disabled={!chosen.size || (as === "activity" && !dealId)} onClick={() => void take()}>
									Import {chosen.size}
								</Button>
							</div>
						</>
					)}
				</>
			)}
		</>
	);
}

interface ItemsProps {
	readonly items: Preview["items"];
	readonly chosen: ReadonlySet<string>;
	readonly setChosen: (uids: ReadonlySet<string>) => void;
}

/** What a calendar file holds, each to be chosen. */
function Items({ items, chosen, setChosen }: ItemsProps) {
	return (
		<table className="table table-sm">
			<caption className="visually-hidden">What the file holds</caption>
			<tbody>
				{items.map((item) => (
					<tr key={item.uid}>
						<td>
							<Form.Check
								aria-label={`Import: ${item.title}`}
								checked={chosen.has(item.uid)}
								disabled={item.known}
								onChange={({ target }) => setChosen(new Set(target.checked ? [...chosen, item.uid] : [...chosen].filter((uid) => uid !== item.uid)))}
							/>
						</td>
						<td>
							{item.title}
							<span className="d-block tiny second">{item.known ? "already imported" : item.warning}</span>
						</td>
						<td className="text-nowrap">{nearDate(item.day, item.day)}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
