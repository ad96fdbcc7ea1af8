"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { Nav } from "react-bootstrap";
import type { ImportJson } from "@/features/import/server/importBundle";
import type { WeeklyList } from "@/features/import/server/weekly/missing";
import { ImportPanel } from "@/features/import/ui/ImportPanel";
import { WeeklyPanel } from "@/features/import/ui/weekly/WeeklyPanel";
import type { PeopleView } from "@/features/people/server/readPeople";
import { type KeyRow, KeysPanel } from "@/features/people/ui/KeysPanel";
import { PeoplePanel } from "@/features/people/ui/PeoplePanel";
import type { FlagsView } from "../server/flagSettings";
import type { Habits } from "../server/habitSettings";
import type { QuestionsView } from "../server/questionSettings";
import type { AuditEntry } from "../server/readAudit";
import type { StageView } from "../server/stageSettings";
import { AuditPanel } from "./AuditPanel";
import { ClockPanel, type ClockView } from "./ClockPanel";
import { FlagsPanel } from "./FlagsPanel";
import { QuestionsPanel } from "./QuestionsPanel";
import { StagesPanel } from "./StagesPanel";
import "./setup.css";

interface Props {
	readonly people: PeopleView;
	readonly keys: readonly KeyRow[];
	/** null for those who may not import */
	readonly imports: readonly ImportJson[] | null;
	/** null for those who may not import */
	readonly weekly: WeeklyList | null;
	readonly clock: ClockView | null;
	readonly flags: FlagsView;
	readonly questions: QuestionsView;
	readonly stages: readonly StageView[];
	readonly habits: Habits;
	/** null for those who may not read it */
	readonly audit: readonly AuditEntry[] | null;
	/** may change flags, questions, stages and habits */
	readonly mayChange: boolean;
	readonly currency: string;
	readonly today: string;
}

const PLACES = ["import", "weekly", "flags", "questions", "stages", "people", "keys", "clock", "audit"] as const;
const WORDS: Record<(typeof PLACES)[number], string> = {
	import: "Import and export",
	weekly: "Weekly export",
	flags: "Flags",
	questions: "Questions",
	stages: "Stages and habits",
	people: "People and teams",
	keys: "API keys",
	clock: "Today",
	audit: "Who changed what",
};

export function SetupScreen(props: Props) {
	const { imports, clock, audit, mayChange, currency } = props;
	const [asked, setPlace] = useQueryState("place", parseAsStringLiteral(PLACES).withOptions({ shallow: true, history: "push" }));
	const hidden = { import: !imports, weekly: !props.weekly, clock: !clock, audit: !audit } as Partial<Record<(typeof PLACES)[number], boolean>>;
	const places = PLACES.filter((place) => !hidden[place]);
	const place = asked && places.includes(asked) ? asked : (places[0] as (typeof PLACES)[number]);
	return (
		<>
			<Nav variant="underline" className="mb-3 no-print setup-nav" role="tablist">
				{places.map((p) => (
					<Nav.Item key={p}>
						<Nav.Link as="button" type="button" role="tab" aria-selected={p === place} active={p === place} onClick={() => void setPlace(p)}>
							{WORDS[p]}
						</Nav.Link>
					</Nav.Item>
				))}
			</Nav>
			{place === "import" && imports && <ImportPanel past={imports} />}
			{place === "weekly" && props.weekly && <WeeklyPanel list={props.weekly} today={props.today} />}
			{place === "flags" && <FlagsPanel view={props.flags} mayChange={mayChange} currency={currency} />}
			{place === "questions" && <QuestionsPanel view={props.questions} mayChange={mayChange} />}
			{place === "stages" && <StagesPanel stages={props.stages} habits={props.habits} mayChange={mayChange} />}
			{place === "people" && <PeoplePanel view={props.people} />}
			{place === "keys" && <KeysPanel keys={props.keys} />}
			{place === "clock" && clock && <ClockPanel view={clock} />}
			{place === "audit" && audit && <AuditPanel entries={audit} />}
		</>
	);
}
