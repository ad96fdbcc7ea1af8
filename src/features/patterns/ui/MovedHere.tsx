"use client";
import { Moved } from "./Moved";
import { useOutlook } from "./useOutlook";

/** How the outlook of the sentence moved since the earlier day, once that is known. */
export function MovedHere({ revision }: { revision: number }) {
	const { data, error } = useOutlook(revision);
	if (error) return <p className="worse small-text">{error.message}</p>;
	const view = data?.outlook.answer;
	if (!data?.moved.answer) return <p className="second small-text moved-waits">Computing how it moved …</p>;
	if (!view?.available) return null;
	return <Moved moved={data.moved.answer} words={data.againstWords} currency={view.currency} />;
}
