"use client";
import { Button } from "react-bootstrap";

export default function ErrorScreen({ reset }: { error: Error; reset: () => void }) {
	return (
		<main className="empty" role="alert">
			<h1>This screen couldn’t be shown</h1>
			<p>Something went wrong on the server. Nothing of yours was lost or changed.</p>
			<Button onClick={reset}>Try again</Button>
		</main>
	);
}
