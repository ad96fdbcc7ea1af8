"use client";
import Link, { useLinkStatus } from "next/link";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { Search } from "@/features/search/ui/Search";
import { useActions } from "../actions";
import { useTyped } from "../keys";
import { Lamp } from "../parts/Lamp";
import { Help } from "./Help";
import type { FrameView } from "./view";

const KEPT = ["whose", "due", "seen", "against"];
const PLACES = [
	{ path: "/deals", name: "Deals", key: "d", count: "deals", says: "lit" },
	{ path: "/evidence", name: "Evidence", key: "e", count: null, says: "" },
	{ path: "/changes", name: "Changes", key: "c", count: null, says: "" },
	{ path: "/tasks", name: "Tasks", key: "t", count: "tasks", says: "open" },
	{ path: "/desk", name: "My desk", key: "m", count: "desk", says: "due" },
	{ path: "/accounts", name: "Accounts", key: "a", count: null, says: "" },
	{ path: "/setup", name: "Setup", key: "s", count: null, says: "" },
] as const;

/** Where a search can lead beside the screens. */
const SEARCHED = [
	...PLACES,
	{ path: "/setup?place=flags", name: "Setup: flags" },
	{ path: "/setup?place=questions", name: "Setup: questions" },
	{ path: "/setup?place=stages", name: "Setup: stages and habits" },
	{ path: "/setup?place=audit", name: "Setup: who changed what" },
];

/** Words, not icons; a count where something waits. The sentence goes along from screen to screen. */
export function Rail({ view }: { view: FrameView }) {
	const path = usePathname();
	const router = useRouter();
	const params = useSearchParams();
	const actions = useActions();
	const [help, setHelp] = useState(false);
	const [searching, setSearching] = useState(false);
	const kept = new URLSearchParams([...params].filter(([name]) => KEPT.includes(name))).toString();
	const to = (place: string) => (kept ? `${place}${place.includes("?") ? "&" : "?"}${kept}` : place);
	useHotkeys(PLACES.map((place) => `g>${place.key}`).join(","), (event) => {
		const place = PLACES.find((p) => p.key === event.key.toLowerCase());
		if (place) router.push(to(place.path));
	});
	useTyped("?", () => setHelp(true));
	useTyped("/", (event) => {
		event.preventDefault();
		setSearching(true);
	});

	return (
		<header className="rail no-print">
			<Link className="rail-name" href={to("/deals")}>
				<Lamp level="act" size={26} />
				<span>
					Porch
					<br /> Lamp
				</span>
			</Link>
			<nav aria-label="Screens">
				{PLACES.map((place) => {
					const count = place.count ? view.counts[place.count] : 0;
					return (
						<Link key={place.path} href={to(place.path)} aria-current={path.startsWith(place.path) ? "page" : undefined}>
							<span>
								{place.name}
								<Pending />
							</span>
							{count > 0 && (
								<span className="count" title={`${count} ${place.says}`}>
									{count}
									<span className="visually-hidden"> {place.says}</span>
								</span>
							)}
						</Link>
					);
				})}
			</nav>
			<div className="rail-foot">
				<div className="rail-who mb-2">
					{view.person.name}
					<br />
					{view.person.place}
					{view.heldToday && (
						<>
							<br />
							today is held at {view.heldToday}
						</>
					)}
				</div>
				<div>
					<button type="button" className="plain-button" onClick={() => setSearching(true)}>
						Search <span className="rail-key">/</span>
					</button>
				</div>
				<div>
					<button type="button" className="plain-button" onClick={() => setHelp(true)}>
						Keys and help
					</button>
				</div>
				<div>
					<button
						type="button"
						className="plain-button"
						onClick={async () => {
							const root = document.documentElement;
							const next = root.dataset.bsTheme === "dark" ? "light" : "dark";
							root.dataset.bsTheme = next;
							await actions.setTheme(next);
						}}
					>
						Day or dusk
					</button>
				</div>
				<div>
					<button type="button" className="plain-button" onClick={() => actions.signOut()}>
						Sign out
					</button>
				</div>
			</div>
			<Help show={help} path={path} onHide={() => setHelp(false)} />
			{searching && <Search places={SEARCHED} to={to} onHide={() => setSearching(false)} />}
		</header>
	);
}

/** Says that the screen is on its way, while the present one still stands. */
function Pending() {
	const { pending } = useLinkStatus();
	return pending ? (
		<span role="status" aria-label="loading">
			{" "}
			…
		</span>
	) : null;
}
