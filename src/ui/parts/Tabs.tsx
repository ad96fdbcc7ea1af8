"use client";
import Link from "next/link";
import { Nav } from "react-bootstrap";
import { meaningOf } from "../terms";

interface Props {
	/** what the tabs are ways of, for those who hear the page */
	readonly label: string;
	readonly current: string;
	readonly tabs: readonly { readonly key: string; readonly label: string; readonly href: string }[];
}

/** Ways of looking at the same, each with an address of its own. */
export function Tabs({ label, current, tabs }: Props) {
	return (
		<Nav variant="underline" className="mb-3 no-print" as="nav" aria-label={label}>
			{tabs.map(({ key, label, href }) => (
				<Nav.Item key={key}>
					<Link
						className={`nav-link ${key === current ? "active" : ""}`}
						aria-current={key === current ? "page" : undefined}
						href={href}
						title={meaningOf(label)}
					>
						{label}
					</Link>
				</Nav.Item>
			))}
		</Nav>
	);
}
