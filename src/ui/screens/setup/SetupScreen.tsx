"use client";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { Nav } from "react-bootstrap";
import type { ImportJson } from "@/usecases/importBundle";
import type { PeopleView } from "@/usecases/readPeople";
import { ClockPanel, type ClockView } from "./ClockPanel";
import { ImportPanel } from "./ImportPanel";
import { type KeyRow, KeysPanel } from "./KeysPanel";
import { PeoplePanel } from "./PeoplePanel";
import "./setup.css";

interface Props {
	readonly people: PeopleView;
	readonly keys: readonly KeyRow[];
	/** null for those who may not import */
	readonly imports: readonly ImportJson[] | null;
	readonly clock: ClockView | null;
}

const PLACES = ["import", "people", "keys", "clock"] as const;
const WORDS: Record<(typeof PLACES)[number], string> = { import: "Import and export", people: "People and teams", keys: "API keys", clock: "Today" };

export function SetupScreen({ people, keys, imports, clock }: Props) {
	const [asked, setPlace] = useQueryState("place", parseAsStringLiteral(PLACES).withOptions({ shallow: true, history: "push" }));
	const places = PLACES.filter((place) => (place !== "import" || imports) && (place !== "clock" || clock));
	const place = asked && places.includes(asked) ? asked : (places[0] as (typeof PLACES)[number]);
	return (
		<>
			<Nav variant="underline" className="mb-3 no-print" role="tablist">
				{places.map((p) => (
					<Nav.Item key={p}>
						<Nav.Link as="button" type="button" role="tab" aria-selected={p === place} active={p === place} onClick={() => void setPlace(p)}>
							{WORDS[p]}
						</Nav.Link>
					</Nav.Item>
				))}
			</Nav>
			{place === "import" && imports && <ImportPanel past={imports} />}
			{place === "people" && <PeoplePanel view={people} />}
			{place === "keys" && <KeysPanel keys={keys} />}
			{place === "clock" && clock && <ClockPanel view={clock} />}
		</>
	);
}
