"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-bootstrap";
import { listed, plural } from "@/core/words/grammar";
import type { GiveAt } from "@/features/accounts/ui/slots";
import { DayField } from "@/ui/parts/DayField";
import { FormDialog } from "@/ui/parts/FormDialog";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";

const NAMED = 3;

/** Gives a kit, or one task, for accounts beside their deals: each goes to the account’s owner. */
export function GiveAtAccounts({ accounts, onClose }: GiveAt) {
	// Long: one form, its fields in their order.
	const run = useRun();
	const act = useAct();
	const { data } = useQuery({
		queryKey: ["draft"],
		queryFn: () => run("tasks.draft", { dealIds: [] }),
		retry: false,
		gcTime: 0,
	});
	const draft = data?.ok ? data.result : null;
	const [way, setWay] = useState<"kit" | "one">("kit");
	const [kit, setKit] = useState("");
	const [title, setTitle] = useState("");
	const [due, setDue] = useState("");
	const kits = draft?.kits ?? [];
	const asKit = way === "kit" && kits.length > 0;
	const chosen = kits.find(({ id }) => id === kit) ?? kits[0];
	const accountIds = accounts.map(({ id }) => id);
	const give = async () => {
		const day = due || (draft?.due ?? "");
		const work =
			asKit && chosen
				? run("tasks.giveKit", { id: chosen.id, accountIds })
				: run("tasks.giveEach", { lines: accountIds.map((accountId) => ({ dealId: null, accountId, title, dueOn: day })) });
		const done = await act(
			work,
			({ tasks }) => `${plural(tasks.length, "task")} given.`,
			({ tasks }) => run("tasks.takeBack", { ids: tasks.map(({ id }) => id) }),
		);
		if (done) onClose(true);
	};
	const names = accounts.slice(0, NAMED).map(({ name }) => name);
	const rest = accounts.length - names.length;
	return (
		<FormDialog
			title={accounts.length === 1 ? `A task for ${names[0]}` : `Tasks for ${plural(accounts.length, "account")}`}
			label="Give"
			onSave={() => void give()}
			onClose={() => onClose(false)}
			error={data && !data.ok ? data.detail : null}
			not={!draft || (!asKit && !title.trim())}
			bodyClass="d-grid gap-3"
		>
			{accounts.length > 1 && (
				<p className="small-text second mb-0">{rest > 0 ? `${names.join(", ")} and ${rest} more` : listed(names)}; each goes to the account’s owner.</p>
			)}
			{kits.length > 0 && (
				<div role="radiogroup" aria-label="What is given">
					<Form.Check inline type="radio" name="give-way" id="give-kit" label="A kit" checked={way === "kit"} onChange={() => setWay("kit")} />
					<Form.Check inline type="radio" name="give-way" id="give-one" label="One task" checked={way === "one"} onChange={() => setWay("one")} />
				</div>
			)}
			{asKit && chosen ? (
				<div>
					<Form.Select aria-label="Kit" value={chosen.id} onChange={({ target }) => setKit(target.value)}>
						{kits.map(({ id, name }) => (
							<option key={id} value={id}>
								{name}
							</option>
						))}
					</Form.Select>
					{chosen.about && <p className="small-text second mt-2 mb-1">{chosen.about}</p>}
					<ul className="rows small-text mb-0">
						{chosen.steps.map(({ title: step, days }) => (
							<li key={`${days} ${step}`}>
								<span>{step}</span>
								<span className="second text-nowrap">{days ? `after ${plural(days, "working day")}` : "today"}</span>
							</li>
						))}
					</ul>
				</div>
			) : (
				<>
					<Form.Group controlId="give-title">
						<Form.Label>Task; {"{account}"} is filled in</Form.Label>
						<Form.Control value={title} maxLength={300} autoFocus onChange={({ target }) => setTitle(target.value)} />
					</Form.Group>
					<Form.Group>
						<Form.Label htmlFor="give-due">Due</Form.Label>
						<DayField id="give-due" value={due || (draft?.due ?? "")} onDay={setDue} />
					</Form.Group>
				</>
			)}
		</FormDialog>
	);
}
