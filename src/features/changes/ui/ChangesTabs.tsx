"use client";
import Link from "next/link";
import { useSearchParams } from "next/navigation";
import { Nav } from "react-bootstrap";
import { CHANGES_VIEWS, type ChangesKey } from "./views";

/** Ways of looking at the same two days. */
export function ChangesTabs({ current }: { current: ChangesKey }) {
	const params = useSearchParams();
	const to = (key: ChangesKey) => {
		const next = new URLSearchParams([...params].filter(([name]) => ["whose", "due", "seen", "against"].includes(name)));
		if (key !== "bridge") next.set("show", key);
		return `/changes?${next}`;
	};
	return (
		<Nav variant="underline" className="mb-3 no-print" as="nav" aria-label="Views of what changed">
			{CHANGES_VIEWS.map(({ key, words }) => (
				<Nav.Item key={key}>
					<Link className={`nav-link ${key === current ? "active" : ""}`} aria-current={key === current ? "page" : undefined} href={to(key)}>
						{words}
					</Link>
				</Nav.Item>
			))}
		</Nav>
	);
}
