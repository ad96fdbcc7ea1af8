"use client";
import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { Modal } from "react-bootstrap";
import { type Result, useRun } from "../run";
import type { PlaceView } from "./view";

type Hit = Result<"search.find">[number];

const HEADS: Record<Hit["kind"], string> = {
	deal: "Deals",
	account: "Accounts",
	colleague: "Colleagues",
	file: "Files and links",
	person: "People at the buyer’s",
	quote: "Quotes",
	text: "In texts",
};
const KINDS = ["deal", "account", "colleague", "person", "quote", "file", "text"] as const;
const PAUSE = 160;

/** Names a hit among those of its kind. */
const hitName = (hit: Hit, i: number) => `${hit.kind} ${i} ${hit.dealId ?? hit.accountId ?? hit.personId}`;

/** Finds deals, accounts, people, words of what was written, and places of the program, by typing. */
export function Search({ places, to, onHide }: { places: readonly PlaceView[]; to: (path: string) => string; onHide: () => void }) {
	const [text, setText] = useState("");
	const [chosen, setChosen] = useState("");
	const { hits, state } = useHits(text, setChosen);
	const router = useRouter();
	const go = (path: string) => {
		onHide();
		router.push(path);
	};
	const found = places.filter((place) => place.label.toLowerCase().includes(text.trim().toLowerCase()));
	return (
		<Modal show onHide={onHide} aria-label="Search" className="search-modal">
			<Command shouldFilter={false} label="Search" loop value={chosen} onValueChange={setChosen}>
				<Command.Input
					className="search-input"
					placeholder="Search deals, accounts, people, quotes, screens and text"
					value={text}
					onValueChange={setText}
					maxLength={100}
					autoFocus
				/>
				<Command.List>
					<State state={state} none={!hits.length} nothing={text.trim().length >= 2 && !hits.length && !found.length} />
					{KINDS.map((kind) => {
						const own = hits.filter((hit) => hit.kind === kind);
						return own.length ? (
							<Command.Group key={kind} heading={HEADS[kind]}>
								{own.map((hit, i) => (
									<Command.Item
										key={`${kind}${hit.dealId}${hit.accountId}${hit.title}${String(i)}`}
										value={hitName(hit, i)}
										onSelect={() => go(pathOf(hit, to))}
									>
										<span>{hit.title}</span> <span className="second tiny">{hit.detail}</span>
									</Command.Item>
								))}
							</Command.Group>
						) : null;
					})}
					{found.length > 0 && (
						<Command.Group heading="Screens">
							{found.map((place) => (
								<Command.Item key={place.path} value={`place ${place.path}`} onSelect={() => go(to(place.path))}>
									{place.label}
								</Command.Item>
							))}
						</Command.Group>
					)}
				</Command.List>
			</Command>
		</Modal>
	);
}

/** What is found for a text, a moment after it was typed; the first one found is chosen. */
function useHits(text: string, choose: (name: string) => void) {
	const [hits, setHits] = useState<readonly Hit[]>([]);
	const [state, setState] = useState<SearchState>("idle");
	const run = useRun();
	useEffect(() => {
		const words = text.trim();
		if (words.length < 2) {
			setHits([]);
			setState("idle");
			return;
		}
		let old = false;
		setState("looking");
		const timer = setTimeout(async () => {
			const answer = await run("search.find", { text: words });
			if (old) return;
			const found = answer.ok ? answer.result : [];
			setHits(found);
			if (found[0]) choose(hitName(found[0], 0));
			setState(answer.ok ? "idle" : "failed");
		}, PAUSE);
		return () => {
			old = true;
			clearTimeout(timer);
		};
	}, [text, run, choose]);
	return { hits, state };
}

type SearchState = "idle" | "looking" | "failed";

function State({ state, none, nothing }: { state: SearchState; none: boolean; nothing: boolean }) {
	if (state === "failed") return <p className="px-3 py-2 worse mb-0">The server doesn’t respond. Try again.</p>;
	if (state === "looking") return none ? <p className="px-3 py-2 second mb-0">Loading …</p> : null;
	return nothing ? (
		<p className="px-3 py-2 second mb-0">
			No names and no text match. Searched: names, quote numbers, notes, activities, answers, reasons, calls, minutes, rests and quote answers.
		</p>
	) : null;
}

function pathOf(hit: Hit, to: (path: string) => string): string {
	if (hit.dealId) return to(`/deals/${encodeURIComponent(hit.dealId)}`);
	if (hit.personId) return to(`/people/${encodeURIComponent(hit.personId)}`);
	return to(`/accounts/${encodeURIComponent(hit.accountId ?? "")}`);
}
