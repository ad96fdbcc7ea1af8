import type { ReactNode } from "react";
import type { SentenceChoices } from "@/usecases/sentence";
import { Rail } from "./Rail";
import { SentenceBar } from "./SentenceBar";

export interface FrameView {
	readonly person: { readonly name: string; readonly place: string; readonly role: string };
	readonly counts: { readonly deals: number; readonly tasks: number; readonly desk: number };
	readonly sentence: {
		readonly whose: { readonly key: string; readonly words: string };
		readonly due: { readonly key: string; readonly words: string; readonly start: string | null; readonly end: string | null };
		readonly seen: { readonly day: string; readonly words: string; readonly past: boolean };
		readonly against: { readonly day: string; readonly words: string };
		readonly workingDaysLeft: number | null;
	};
	readonly choices: SentenceChoices;
	readonly today: string;
	readonly heldToday: string | null;
}

/** The rail, the sentence, and a screen. Screens that don't depend on the sentence carry a title instead. */
export function Frame({ view, title, children }: { view: FrameView; title?: string; children: ReactNode }) {
	return (
		<div className="shell">
			<a className="skip" href="#content">Skip to the content</a>
			<Rail view={view} />
			<main className="main" id="content">
				{title ? (
					<header className="sentence"><h1>{title}</h1></header>
				) : (
					<SentenceBar view={view} />
				)}
				<div className="content">{children}</div>
			</main>
		</div>
	);
}
