"use client";
import Link from "next/link";
import { parseAsInteger, parseAsString, useQueryStates } from "nuqs";
import { useTransition } from "react";
import { Button, Form } from "react-bootstrap";
import { AttachedTo } from "@/features/attachments/ui/AttachedTo";
import { longDate, money, nearDate } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { AccountPage } from "../server/accountPageView";
import { LogForm } from "./LogForm";

type Entry = AccountPage["log"][number];

const SIGNS: Readonly<Record<string, readonly [sign: string, words: string]>> = {
	in: ["←", "they to us"],
	out: ["→", "we to them"],
	both: ["↔", "a conversation"],
	none: ["·", "internal"],
};
const MORE = 100;

/** All that was said and done at the account and on its deals, the newest first; filtered and searched. */
export function AccountLog({ view }: { view: AccountPage }) {
	const [waiting, start] = useTransition();
	const [state, set] = useQueryStates(
		{ kind: parseAsString, person: parseAsString, deal: parseAsString, q: parseAsString.withDefault(""), limit: parseAsInteger },
		{ shallow: false, scroll: false, history: "replace", throttleMs: 300, startTransition: start },
	);
	const look = (change: Partial<Record<"kind" | "person" | "deal" | "q", string | null>>) => void set({ ...change, limit: null });
	const narrowed = Boolean(state.kind || state.person || state.deal || state.q);
	const { kinds, people, deals } = view.choices;
	return (
		<section className="panel account-log" aria-label="What was said and done">
			<h3>What was said and done</h3>
			<div className="account-filters no-print">
				<Choose label="Kind" all="all kinds" value={state.kind} set={(kind) => look({ kind })} choices={kinds.map((kind) => ({ id: kind, name: kind }))} />
				<Choose label="Person" all="everybody" value={state.person} set={(person) => look({ person })} choices={people} />
				<Choose label="Deal" all="all deals" value={state.deal} set={(deal) => look({ deal })} choices={[...deals, { id: "none", name: "beside the deals" }]} />
				<Form.Control
					size="sm"
					type="search"
					aria-label="Search the log"
					placeholder="Find"
					value={state.q}
					onChange={({ target }) => look({ q: target.value || null })}
				/>
			</div>
			{view.mayWrite && <LogForm view={view} />}
			<ul className={`account-entries ${waiting ? "waiting" : ""}`} aria-busy={waiting}>
				{view.log.map((entry) => (
					<Line key={`${entry.kind} ${entry.id}`} entry={entry} view={view} />
				))}
			</ul>
			{!view.log.length && (
				<p className="second small-text mb-0">
					{narrowed ? "Nothing in the log fits. Clear the filters to see all of it." : "Nothing has been said or done yet."}
				</p>
			)}
			{view.more && (
				<Button size="sm" variant="link" className="p-0 no-print" disabled={waiting} onClick={() => void set({ limit: view.shown + MORE })}>
					Show older entries
				</Button>
			)}
		</section>
	);
}

interface ChooseProps {
	readonly label: string;
	readonly all: string;
	readonly value: string | null;
	readonly set: (value: string | null) => void;
	readonly choices: readonly { readonly id: string; readonly name: string }[];
}

function Choose({ label, all, value, set, choices }: ChooseProps) {
	return (
		<Form.Select size="sm" aria-label={label} value={value ?? ""} onChange={({ target }) => set(target.value || null)}>
			<option value="">{all}</option>
			{choices.map(({ id, name }) => (
				<option key={id} value={id}>
					{name}
				</option>
			))}
		</Form.Select>
	);
}

function Line({ entry, view: { seen, past, files } }: { entry: Entry; view: AccountPage }) {
	const address = useAddress();
	const [sign, words] = SIGNS[entry.direction ?? ""] ?? ["", ""];
	const who = [entry.by, entry.contacts.join(", ")].filter(Boolean).join(entry.direction === "in" ? " ← " : entry.direction === "out" ? " → " : ", ");
	return (
		<li className={entry.planned ? "planned" : undefined}>
			<span className="third" title={longDate(entry.day)}>
				{nearDate(entry.day, seen)}
			</span>
			<span title={entry.planned ? "planned" : words || undefined}>
				{entry.planned ? "planned" : entry.dropped ? "dropped" : entry.kind}{" "}
				{!entry.planned && !entry.dropped && sign && <span aria-hidden="true">{sign}</span>}
				{words && !entry.planned && <span className="visually-hidden">, {words}</span>}
			</span>
			<span>
				{entry.subject}
				{entry.body && <span className="d-block second">{entry.body}</span>}
				<span className="d-block tiny second">
					{(entry.planned || entry.dropped) && `${entry.kind} `}
					{who}
					{entry.amount && ` ${money(entry.amount.minor, entry.amount.currency)}`}
					{entry.deal && entry.kind !== "deal" && (
						<>
							{who && " · "}
							<Link href={address(`/deals/${encodeURIComponent(entry.deal.id)}`)}>{entry.deal.name}</Link>
						</>
					)}
				</span>
				<AttachedTo activity={entry.id} files={files} seen={seen} past={past} />
			</span>
		</li>
	);
}
