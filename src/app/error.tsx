"use client";
import { useRouter } from "next/navigation";
import { startTransition, useEffect, useState } from "react";
import { Button } from "react-bootstrap";

/** So often it is looked whether the server can answer again, in ms. */
const LOOKS = 2000;
const ready = () =>
	fetch("/readyz", { method: "HEAD", cache: "no-store" }).then(
		({ ok }) => ok,
		() => false,
	);

export default function ErrorScreen({ reset }: { error: Error; reset: () => void }) {
	const router = useRouter();
	const [away, setAway] = useState(false);
	// Where the database was away, the screen comes by itself once it is back; any other fault would only come again.
	useEffect(() => {
		let timer: ReturnType<typeof setInterval> | undefined;
		let over = false;
		void ready().then((well) => {
			if (well || over) return;
			setAway(true);
			timer = setInterval(async () => {
				if (!(await ready()) || over) return;
				startTransition(() => {
					router.refresh();
					reset();
				});
			}, LOOKS);
		});
		return () => {
			over = true;
			clearInterval(timer);
		};
	}, [reset, router]);
	return (
		<main className="empty" role="alert">
			<h1>{away ? "The database can’t be reached" : "This screen couldn’t be shown"}</h1>
			<p>
				{away
					? "This screen is shown as soon as it can. Nothing of yours was lost or changed."
					: "Something went wrong on the server. Nothing of yours was lost or changed."}
			</p>
			<Button onClick={reset}>Try again</Button>
		</main>
	);
}
