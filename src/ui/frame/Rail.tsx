"use client";
import Link, { useLinkStatus } from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { type ReactNode, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useTyped } from "../keys";
import { useNotice } from "../Notices";
import { Lamp } from "../parts/Lamp";
import { useServer } from "../run";
import { useAddress } from "./address";
import { Help } from "./Help";
import { forgetTyped } from "./reach/typed";
import { Search } from "./Search";
import { otherTheme } from "./theme";
import type { FrameView } from "./view";

/** Words, not icons; a count where something waits. The sentence goes along from screen to screen. */
export function Rail({ view }: { view: FrameView }) {
	const path = usePathname();
	const router = useRouter();
	const signOut = useSignOut();
	const [help, setHelp] = useState(false);
	const [searching, setSearching] = useState(false);
	const to = useAddress();
	useHotkeys(view.rail.map((place) => `g>${place.key}`).join(","), (event) => {
		const place = view.rail.find((p) => p.key === event.key.toLowerCase());
		if (place) router.push(to(place.path));
	});
	useTyped("?", () => setHelp(true));
	useTyped("/", (event) => {
		event.preventDefault();
		setSearching(true);
	});

	return (
		<header className="rail no-print">
			<Link className="rail-name" href={to("/period")}>
				<Lamp level="act" size={26} />
				<span>
					Porch
					<br /> Lamp
				</span>
			</Link>
			<Screens view={view} path={path} to={to} />
			<div className="rail-foot">
				<div className="rail-who mb-2">
					{view.person.name}
					<br />
					{view.person.place}
					{view.heldToday && (
						<>
							<br />
							today is fixed at {view.heldToday}
						</>
					)}
				</div>
				<FootButton onClick={() => setSearching(true)}>
					Search <span className="rail-key">/</span>
				</FootButton>
				<FootButton onClick={() => setHelp(true)}>Keys and help</FootButton>
				<FootButton onClick={otherTheme}>Day or dusk</FootButton>
				<FootButton onClick={signOut}>Sign out</FootButton>
			</div>
			<Help show={help} path={path} rail={view.rail} keys={view.keys} onHide={() => setHelp(false)} />
			{searching && <Search places={[...view.rail, ...view.places]} to={to} onHide={() => setSearching(false)} />}
		</header>
	);
}

function useSignOut() {
	const server = useServer();
	const say = useNotice();
	// A connection that is away is a TypeError; leaving for the sign-in page is none.
	return () => {
		forgetTyped();
		void server.signOut().catch((error) => {
			if (error instanceof TypeError) say({ words: "You are still signed in: the request failed. The connection or the server may be down. Try again." });
		});
	};
}

function Screens({ view, path, to }: { view: FrameView; path: string; to: (path: string) => string }) {
	return (
		<nav aria-label="Screens">
			{view.rail.map((place) => (
				<Link key={place.path} href={to(place.path)} aria-current={path.startsWith(place.path) ? "page" : undefined}>
					<span>
						{place.label}
						<Pending />
					</span>
					{place.count > 0 && (
						<span className="count" title={`${place.count} ${place.countLabel}`}>
							{place.count}
							<span className="visually-hidden"> {place.countLabel}</span>
						</span>
					)}
				</Link>
			))}
		</nav>
	);
}

const FootButton = ({ onClick, children }: { onClick: () => void; children: ReactNode }) => (
	<div>
		<button type="button" className="plain-button" onClick={onClick}>
			{children}
		</button>
	</div>
);

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
