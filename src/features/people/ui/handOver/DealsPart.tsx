"use client";
import { useState } from "react";
import { Button, Form } from "react-bootstrap";
import { spread } from "@/core/people/spread";
import { plural } from "@/core/words/grammar";
import { money } from "@/ui/format";
import { Lamp } from "@/ui/parts/Lamp";
import type { Choices, Preview } from "./choices";
import { TakerSelect } from "./TakerSelect";

interface Props {
	readonly preview: Preview;
	readonly deals: Choices["deals"];
	readonly onChange: (deals: Choices["deals"]) => void;
}

/** Every open deal with who takes it: by hand, or first by a rule. What each would get is added up beside. */
export function DealsPart({ preview: { deals, people, team, currency }, deals: given, onChange }: Props) {
	// Long: one form, its fields in their order.
	const [over, setOver] = useState<readonly string[]>(() => people.filter((one) => one.team === team && !one.manager).map(({ id }) => id));
	const sum = (list: typeof deals) =>
		money(
			list.reduce((all, { amount }) => all + amount, 0),
			currency,
		);
	const totals = [
		...people.flatMap(({ id, name }) => {
			const own = deals.filter((deal) => given[deal.id] === id);
			return own.length ? [{ id, name, own }] : [];
		}),
		...(deals.some((deal) => !given[deal.id]) ? [{ id: "", name: "stay", own: deals.filter((deal) => !given[deal.id]) }] : []),
	];
	if (!deals.length) return null;
	return (
		<section aria-labelledby="over-deals" className="mb-3">
			<h3 id="over-deals">
				{plural(deals.length, "open deal")}, {sum(deals)}
			</h3>
			<div className="d-flex flex-wrap gap-2 align-items-center mb-2">
				<TakerSelect
					label="Give all deals to"
					value=""
					people={people}
					more={[["", "Give all to …"]]}
					onChange={(to) => to && onChange(Object.fromEntries(deals.map(({ id }) => [id, to])))}
				/>
				<Button size="sm" variant="outline-primary" disabled={!over.length} onClick={() => onChange(Object.fromEntries(spread(deals, over)))}>
					Spread evenly over {over.length}
				</Button>
				<Button
					size="sm"
					variant="outline-primary"
					disabled={!deals.some(({ besides }) => besides)}
					onClick={() => onChange({ ...given, ...Object.fromEntries(deals.flatMap(({ id, besides }) => (besides ? [[id, besides]] : []))) })}
				>
					To the owners of the accounts’ other deals
				</Button>
				<Button size="sm" variant="link" className="p-0" onClick={() => onChange({})}>
					Keep all
				</Button>
			</div>
			<Over people={people} over={over} setOver={setOver} />
			<ul className="rows small-text over-list">
				{deals.map((deal) => (
					<DealLine
						key={deal.id}
						deal={deal}
						currency={currency}
						people={people}
						to={given[deal.id] ?? ""}
						onChange={(to) => onChange({ ...given, [deal.id]: to })}
					/>
				))}
			</ul>
			<p className="small-text second mb-0" aria-live="polite">
				{totals.map(({ name, own }) => `${name}: ${plural(own.length, "deal")}, ${sum(own)}`).join(" · ")}
			</p>
		</section>
	);
}

interface LineProps {
	readonly deal: Preview["deals"][number];
	readonly currency: string;
	readonly people: Preview["people"];
	readonly to: string;
	readonly onChange: (to: string) => void;
}

function DealLine({ deal, currency, people, to, onChange }: LineProps) {
	return (
		<li>
			<span className="d-flex gap-2 align-items-center over-name">
				<Lamp level={deal.level} size={16} />
				<span>
					{deal.name} <span className="second d-block tiny">{deal.account}</span>
				</span>
			</span>
			<span className="num">{money(deal.amount, currency)}</span>
			<TakerSelect label={`${deal.name} goes to`} value={to} people={people} onChange={onChange} />
		</li>
	);
}

interface OverProps {
	readonly people: Preview["people"];
	readonly over: readonly string[];
	readonly setOver: (ids: readonly string[]) => void;
}

/** Over whom deals are spread. */
function Over({ people, over, setOver }: OverProps) {
	return (
		<details className="small-text mb-2">
			<summary>Spread over (by amount, largest first)</summary>
			<div className="d-flex flex-wrap gap-3 mt-1">
				{people.map(({ id, name }) => (
					<Form.Check
						key={id}
						id={`over-${id}`}
						label={name}
						checked={over.includes(id)}
						onChange={(event) => setOver(event.target.checked ? [...over, id] : over.filter((one) => one !== id))}
					/>
				))}
			</div>
		</details>
	);
}
