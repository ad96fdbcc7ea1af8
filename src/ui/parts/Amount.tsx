import { fullAmount } from "@/ui/format";

/**
 * An amount in a column of amounts. Cents, where there are some, hang small behind it, so that the whole units stand
 * one below the other; it reads and copies as one number.
 */
export function Amount({ minor, currency }: { minor: number; currency: string }) {
	const [whole, cents] = fullAmount(minor, currency).split(".");
	return (
		<>
			{whole}
			{cents && <span className="cents">.{cents}</span>}
		</>
	);
}
