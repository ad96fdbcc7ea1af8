import Link from "next/link";

export function FaultView({ title, detail }: { title: string; detail: string }) {
	return (
		<div className="empty" role="alert">
			<h2>{title}</h2>
			<p>{detail}</p>
			<Link className="btn btn-outline-primary" href="/">
				To your first screen
			</Link>
		</div>
	);
}
