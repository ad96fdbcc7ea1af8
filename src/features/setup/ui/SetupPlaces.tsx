"use client";
import { parseAsString, useQueryState } from "nuqs";
import { type KeyboardEvent, type ReactNode, useId, useState, useTransition } from "react";
import { Form } from "react-bootstrap";
import type { PanelGroup } from "@/platform/panel";
import "./setup.css";

export interface SetupPlace {
	readonly key: string;
	readonly label: string;
	readonly group: PanelGroup;
	readonly about: string;
}

type Groups = readonly { readonly key: PanelGroup; readonly label: string }[];

interface Props {
	readonly groups: Groups;
	readonly places: readonly SetupPlace[];
	readonly current: string;
	readonly children: ReactNode;
}

/** Every word that was typed stands in a place's name, its group's or its sentence. */
export function placesFound(groups: Groups, places: readonly SetupPlace[], typed: string): readonly SetupPlace[] {
	const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
	const group = (key: PanelGroup) => groups.find((one) => one.key === key)?.label ?? "";
	return places.filter((place) => {
		const text = `${place.label} ${group(place.group)} ${place.about}`.toLowerCase();
		return words.every((word) => text.includes(word));
	});
}

/** The places of Setup in their groups, a search over them, and the one that is shown; each is read when it is opened. */
export function SetupPlaces({ groups, places, current, children }: Props) {
	const [waiting, start] = useTransition();
	const [, setPlace] = useQueryState("place", parseAsString.withOptions({ shallow: false, history: "push", startTransition: start }));
	const [typed, setTyped] = useState("");
	const id = useId();
	const found = placesFound(groups, places, typed);
	const go = (key: string) => {
		setTyped("");
		void setPlace(key);
	};
	const onKey = (event: KeyboardEvent) => {
		if (event.key === "Escape") setTyped("");
		if (event.key !== "Enter" || !typed.trim() || !found[0]) return;
		event.preventDefault();
		go(found[0].key);
	};
	return (
		<div className="setup-frame">
			<nav className="setup-nav no-print" aria-label="Setup">
				<Form.Control
					size="sm"
					type="search"
					placeholder="Search setup"
					aria-label="Search setup"
					aria-describedby={`${id}-found`}
					value={typed}
					onChange={(event) => setTyped(event.target.value)}
					onKeyDown={onKey}
				/>
				<span id={`${id}-found`} className="visually-hidden" role="status">
					{typed.trim() ? `${found.length} found` : ""}
				</span>
				<ChosenPlace groups={groups} places={places} current={current} onGo={go} />
				{groups.map((group) => {
					const within = found.filter((place) => place.group === group.key);
					return within.length ? (
						<GroupLinks key={group.key} id={`${id}-${group.key}`} label={group.label} places={within} current={current} onGo={go} />
					) : null;
				})}
				{!found.length && <p className="tiny second mb-0">No part of Setup matches “{typed.trim()}”.</p>}
			</nav>
			<div className={waiting ? "waiting" : undefined} aria-busy={waiting}>
				{children}
			</div>
		</div>
	);
}

/** The place that is shown, to choose another where there is no room for all of them. */
function ChosenPlace({ groups, places, current, onGo }: Pick<Props, "groups" | "places" | "current"> & { onGo: (key: string) => void }) {
	return (
		<Form.Select size="sm" className="setup-chosen" aria-label="Part of Setup" value={current} onChange={(event) => onGo(event.target.value)}>
			{groups.map((group) => (
				<optgroup key={group.key} label={group.label}>
					{places
						.filter((place) => place.group === group.key)
						.map(({ key, label }) => (
							<option key={key} value={key}>
								{label}
							</option>
						))}
				</optgroup>
			))}
		</Form.Select>
	);
}

interface GroupProps extends Pick<Props, "places" | "current"> {
	readonly id: string;
	readonly label: string;
	readonly onGo: (key: string) => void;
}

function GroupLinks({ id, label, places, current, onGo }: GroupProps) {
	return (
		<section aria-labelledby={id}>
			<h2 id={id}>{label}</h2>
			<ul>
				{places.map((place) => (
					<li key={place.key}>
						<a
							href={`/setup?place=${place.key}`}
							title={place.about}
							aria-current={place.key === current ? "page" : undefined}
							onClick={(event) => {
								if (event.metaKey || event.ctrlKey || event.shiftKey) return;
								event.preventDefault();
								onGo(place.key);
							}}
						>
							{place.label}
						</a>
					</li>
				))}
			</ul>
		</section>
	);
}
