const STEPS = ["assumed", "heard", "shown"];

/** How an answer is known: three steps filled for assumed, heard and shown; hatched when it is against us. The word stands beside it. */
export function Level({ level }: { level: string }) {
	const filled = STEPS.indexOf(level) + 1;
	return (
		<span className={`steps ${level === "against" ? "against" : ""}`} aria-hidden="true">
			{STEPS.map((step, i) => (
				<i key={step} className={i < filled ? "on" : ""} />
			))}
		</span>
	);
}

export const levelWord = (level: string) => (level === "against" ? "against us" : level);
