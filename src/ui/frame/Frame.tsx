import type { ReactNode } from "react";
import { Live } from "./Live";
import { MayProvider } from "./may";
import { Rail } from "./Rail";
import { PastBar, type Said, SentenceBar } from "./SentenceBar";
import { TodayProvider } from "./today";
import type { FrameView } from "./view";

interface Props {
	readonly view: FrameView;
	readonly title?: string;
	readonly dated?: boolean;
	/** what a screen says in its sentence between whose and seen when, and in the corner beside it */
	readonly says?: Said;
	/** all that it shows is of the people of the sentence, so that what others do needs no reading anew */
	readonly limited?: boolean;
	readonly children: ReactNode;
}

/** The rail, the sentence, and a screen. Screens that don't depend on the sentence carry a title instead; `dated` ones of these show the seen day. */
export function Frame({ view, title, dated = false, says, limited = false, children }: Props) {
	return (
		<div className="shell">
			<a className="skip" href="#content">
				Skip to the content
			</a>
			<Rail view={view} />
			<Live revision={view.revision} people={limited ? view.people : null} away={view.away} />
			<main className="main" id="content">
				{view.trouble && (
					<div className="past-note" role="alert">
						{view.trouble}
					</div>
				)}
				{title ? (
					<>
						<header className="sentence">
							<h1>{title}</h1>
						</header>
						{dated && <PastBar view={view} />}
					</>
				) : (
					<SentenceBar view={view} {...(says ? { says } : {})} />
				)}
				<div className="content">
					<MayProvider rights={view.rights}>
						<TodayProvider today={view.today}>{children}</TodayProvider>
					</MayProvider>
				</div>
			</main>
		</div>
	);
}
