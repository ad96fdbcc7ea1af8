"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { Scrolls } from "@/ui/parts/Scrolls";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { Wish, Wishes } from "../server/wishes";
import "./reaching.css";

const MAILS = [
	{ key: "now", label: "at once" },
	{ key: "digest", label: "in my digest" },
	{ key: "never", label: "never" },
] as const;
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** How one hears of each kind of happening, and when one's digests come. */
export function WishesPanel({ view }: { view: Wishes }) {
	// Long: one form, its fields in their order.
	const run = useRun();
	const act = useAct();
	const [added, setAdded] = useState("");
	const free = view.views.filter(({ id }) => !view.wishes.some(({ of }) => of === id));
	return (
		<section className="panel">
			<p className="second">
				Tell me when … {view.email ? <>Mails go to {view.email}.</> : <b>You have no mail address, so nothing can be mailed; ops can add one.</b>}
			</p>
			<Scrolls of="My notifications">
				<table className="table wishes">
					<thead>
						<tr>
							<th scope="col">Tell me when</th>
							<th scope="col">On my desk</th>
							<th scope="col">By mail</th>
							<th>
								<span className="visually-hidden">Delete</span>
							</th>
						</tr>
					</thead>
					<tbody>
						{view.wishes.map((wish) => (
							<WishRow key={wish.id} wish={wish} />
						))}
						{free.length > 0 && (
							<tr>
								<th scope="row" className="fw-normal">
									<Form.Select size="sm" aria-label="A saved view gains a deal" value={added} onChange={({ target }) => setAdded(target.value)}>
										<option value="">a saved view gains a deal …</option>
										{free.map(({ id, name }) => (
											<option key={id} value={id}>
												{name}
											</option>
										))}
									</Form.Select>
								</th>
								<td colSpan={3}>
									<Button
										size="sm"
										variant="outline-primary"
										disabled={!added}
										onClick={() =>
											void act(run("reaching.saveWish", { kind: "view-gains", of: added, onScreen: true, mail: "never" }), "Notification added.").then(
												(done) => done && setAdded(""),
											)
										}
									>
										Add
									</Button>
								</td>
							</tr>
						)}
					</tbody>
				</table>
			</Scrolls>
			<Digests view={view} />
		</section>
	);
}

/** One kind of happening: whether it is told on the desk, and when by mail. */
function WishRow({ wish }: { wish: Wish }) {
	const run = useRun();
	const act = useAct();
	const save = (part: Partial<Pick<Wish, "onScreen" | "mail">>) => {
		const { kind, of, onScreen, mail } = { ...wish, ...part };
		void act(run("reaching.saveWish", { kind, of, onScreen, mail }), "Saved.", () =>
			run("reaching.saveWish", { kind, of, onScreen: wish.onScreen, mail: wish.mail }),
		);
	};
	return (
		<tr>
			<th scope="row" className="fw-normal">
				{wish.ofWords ? `“${wish.ofWords}” gains a deal` : wish.words}
			</th>
			<td>
				<Form.Check
					id={`wish-${wish.id}`}
					aria-label={`On my desk: ${wish.words}`}
					checked={wish.onScreen}
					onChange={({ target }) => save({ onScreen: target.checked })}
				/>
			</td>
			<td>
				<Form.Select size="sm" aria-label={`By mail: ${wish.words}`} value={wish.mail} onChange={({ target }) => save({ mail: target.value as Wish["mail"] })}>
					{MAILS.map(({ key, label }) => (
						<option key={key} value={key}>
							{label}
						</option>
					))}
				</Form.Select>
			</td>
			<td>
				{wish.of && (
					<Button
						size="sm"
						variant="link"
						onClick={() =>
							void act(run("reaching.removeWish", { kind: wish.kind, of: wish.of }), "Notification deleted.", () =>
								run("reaching.saveWish", { kind: wish.kind, of: wish.of, onScreen: wish.onScreen, mail: wish.mail }),
							)
						}
					>
						Delete
					</Button>
				)}
			</td>
		</tr>
	);
}

function Digests({ view }: { view: Wishes }) {
	// Long: one form, its fields in their order.
	const run = useRun();
	const act = useAct();
	const [day = "1", at = "07:30"] = view.weekly?.split(" ") ?? [];
	const save = (part: { daily?: string | null; weekly?: string | null }) => {
		const before = { daily: view.daily, weekly: view.weekly };
		void act(run("reaching.saveDigests", { ...before, ...part }), "Saved.", () => run("reaching.saveDigests", before));
	};
	return (
		<div className="digests">
			<h2 className="h6">Digests</h2>
			<div>
				<Form.Check
					id="digest-daily"
					label="My day, each working day at"
					checked={view.daily !== null}
					onChange={({ target }) => save({ daily: target.checked ? "07:30" : null })}
				/>
				<Form.Control
					size="sm"
					type="time"
					aria-label="Time of my day"
					disabled={view.daily === null}
					key={`daily ${view.daily}`}
					defaultValue={view.daily ?? "07:30"}
					onBlur={({ target }) => target.value && target.value !== view.daily && view.daily !== null && save({ daily: target.value })}
				/>
			</div>
			<div>
				<Form.Check
					id="digest-weekly"
					label="My week, each"
					checked={view.weekly !== null}
					onChange={({ target }) => save({ weekly: target.checked ? "1 07:30" : null })}
				/>
				<Form.Select
					size="sm"
					aria-label="Day of my week"
					disabled={view.weekly === null}
					value={day}
					onChange={({ target }) => save({ weekly: `${target.value} ${at}` })}
				>
					{DAYS.map((name, i) => (
						<option key={name} value={i + 1}>
							{name}
						</option>
					))}
				</Form.Select>
				<Form.Control
					size="sm"
					type="time"
					aria-label="Time of my week"
					disabled={view.weekly === null}
					key={`weekly ${view.weekly}`}
					defaultValue={at}
					onBlur={({ target }) => target.value && target.value !== at && view.weekly !== null && save({ weekly: `${day} ${target.value}` })}
				/>
			</div>
			<p className="second small-text mb-0">
				Daily: what is due, late and at act. Weekly: where the period stands, what changed, which tasks are late. Both include the events you chose for your
				digest.
			</p>
		</div>
	);
}
