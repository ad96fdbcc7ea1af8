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
	person: "People at the buyer’s",
	quote: "Quotes",
	text: "In texts",
};
const KINDS = ["deal", "account", "colleague", "person", "quote", "text"] as const;
const PAUSE = 160;

/** Names a hit among those of its kind. */
const hitName = (hit: Hit, i: number) => `${hit.kind} ${i} ${hit.dealId ?? hit.accountId ?? hit.personId}`;

/** Finds deals, accounts, people, words of what was written, and places of the program, by typing. */
export function Search({ places, to, onHide }: { places: readonly PlaceView[]; to: (path: string) => string; onHide: () => void }) {
	const [text, setText] = useState("");
	const [hits, setHits] = useState<readonly Hit[]>([]);
	const [state, setState] = useState<"idle" | "looking" | "failed">("idle");
	const [chosen, setChosen] = useState("");
	const run = useRun();
	const router = useRouter();
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
			if (found[0]) setChosen(hitName(found[0], 0));
			setState(answer.ok ? "idle" : "failed");
		}, PAUSE);
		return () => {
			old = true;
			clearTimeout(timer);
		};
	}, [text, run]);
	const go = (path: string) => {
		onHide();
		router.push(path);
	};
	const found = places.filter((place) => place.words.toLowerCase().includes(text.trim().toLowerCase()));
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
					{state === "failed" && <p className="px-3 py-2 worse mb-0">The server doesn’t respond. Try again.</p>}
					{state === "looking" && !hits.length && <p className="px-3 py-2 second mb-0">Loading …</p>}
					{state === "idle" && text.trim().length >= 2 && !hits.length && !found.length && (
						<p className="px-3 py-2 second mb-0">
							No names and no text match. Searched: names, quote numbers, notes, activities, answers, reasons, calls, minutes, rests and quote answers.
						</p>
					)}
					{KINDS.map((kind) => {
						const own = hits.filter((hit) => hit.kind === kind);
						return own.length ? (
							<Command.Group key={kind} heading={HEADS[kind]}>
								{own.map((hit, i) => (
									<Command.Item
										key={`${kind}${hit.dealId}${hit.accountId}${hit.title}${String(i)}`}
										value={hitName(hit, i)}
										onSelect={() =>
											go(
												hit.dealId
													? to(`/deals/${encodeURIComponent(hit.dealId)}`)
													: hit.personId
														? `/deals?whose=${encodeURIComponent(`person:${hit.personId}`)}`
														: `/accounts?account=${encodeURIComponent(hit.accountId ?? "")}`,
											)
										}
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
									{place.words}
								</Command.Item>
							))}
						</Command.Group>
					)}
				</Command.List>
			</Command>
		</Modal>
	);
}
