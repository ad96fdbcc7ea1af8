"use client";
import Link from "next/link";
import { Nav } from "react-bootstrap";
import { useAddress } from "@/ui/frame/address";
import { CHANGES_VIEWS, type ChangesKey } from "./views";

/** Ways of looking at the same two days. */
export function ChangesTabs({ current }: { current: ChangesKey }) {
	const address = useAddress();
	const to = (key: ChangesKey) => address("/changes", { show: key === "bridge" ? null : key });
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
