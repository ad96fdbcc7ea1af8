"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Modal } from "react-bootstrap";
import { useRun } from "@/ui/run";
import { BehindLines, behindWords } from "./BehindPanel";
import { useSentenceOfAddress } from "./useOutlook";

interface Props {
	readonly dealId: string;
	readonly name: string;
	readonly step: { readonly n: number; readonly won: number };
	/** they agree with it in all values that deals are compared by */
	readonly whole: boolean;
	readonly currency: string;
	readonly seen: string;
	readonly label?: string;
}

/** `12 of 19`: opens the past deals that a chance rests on. */
export function Comparables({ dealId, name, step, whole, currency, seen, label }: Props) {
	const [open, setOpen] = useState(false);
	const run = useRun();
	const sentence = useSentenceOfAddress();
	const { data, error } = useQuery({
		queryKey: ["comparables", dealId, sentence],
		queryFn: async () => {
			const outcome = await run("patterns.comparables", { ...sentence, dealId });
			if (!outcome.ok) throw new Error(outcome.detail);
			return outcome.result;
		},
		enabled: open,
		retry: false,
	});
	return (
		<>
			<button type="button" className="opens text-nowrap" onClick={() => setOpen(true)}>
				{label ?? `${step.won} of ${step.n}`}
				<span className="visually-hidden">, {name}: open the comparable deals</span>
			</button>
			<Modal show={open} onHide={() => setOpen(false)} scrollable aria-labelledby={`comparables-${dealId}`}>
				<Modal.Header closeButton>
					<Modal.Title as="h2" id={`comparables-${dealId}`}>
						{data?.title ?? `Comparable with ${name}`}
					</Modal.Title>
				</Modal.Header>
				<Modal.Body>
					{error ? (
						<p className="worse">{error.message}</p>
					) : data ? (
						<>
							<p className="second small-text">
								{behindWords(data)}{" "}
								{whole ? "They match it in all that deals are compared by." : "Closer matches are too few, but still count by their weight."}
							</p>
							<BehindLines lines={data.lines} currency={currency} seen={seen} />
						</>
					) : (
						<p className="second">Reading the past …</p>
					)}
				</Modal.Body>
			</Modal>
		</>
	);
}
