"use client";
import Link from "next/link";
import { Nav } from "react-bootstrap";
import { useAddress } from "@/ui/frame/address";

const VIEWS = [
	{ key: "stand", words: "Where it stands", path: "/period" },
	{ key: "tries", words: "Try it out", path: "/period/tries" },
	{ key: "boards", words: "Boards", path: "/period/boards" },
] as const;

/** The period as it stands, what would be if, and boards of one's own. */
export function PeriodTabs({ current }: { current: (typeof VIEWS)[number]["key"] }) {
	const address = useAddress();
	return (
		<Nav variant="underline" className="mb-3 no-print" as="nav" aria-label="Views of the period">
			{VIEWS.map(({ key, words, path }) => (
				<Nav.Item key={key}>
					<Link className={`nav-link ${key === current ? "active" : ""}`} aria-current={key === current ? "page" : undefined} href={address(path)}>
						{words}
					</Link>
				</Nav.Item>
			))}
		</Nav>
	);
}
