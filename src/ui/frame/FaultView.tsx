"use client";
import Link from "next/link";
import { usePathname, useSearchParams } from "next/navigation";

const DAYS = ["due", "seen", "against", "whose"];

/** What is wrong with an address or with the rights to it, in words, with a way on. */
export function FaultView({ title, detail }: { title: string; detail: string }) {
	const path = usePathname();
	const params = useSearchParams();
	const rest = new URLSearchParams([...params].filter(([name]) => !DAYS.includes(name)));
	return (
		<div className="empty" role="alert">
			<h2>{title}</h2>
			<p>{detail}</p>
			{DAYS.some((name) => params.has(name)) && (
				<Link className="btn btn-primary me-2" href={rest.size ? `${path}?${rest}` : path}>
					Open with the default days
				</Link>
			)}
			<Link className="btn btn-outline-primary" href="/">
				Go to your start page
			</Link>
		</div>
	);
}
