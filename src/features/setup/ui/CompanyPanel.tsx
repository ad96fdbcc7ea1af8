"use client";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { Button } from "react-bootstrap";
import { type CompanyDraft, CompanyFields, holidayLines, holidaysOf } from "@/ui/parts/CompanyFields";
import { useRun } from "@/ui/run";
import { undone, useAct } from "@/ui/useAct";
import type { Company, CompanyView } from "../server/company";
import { FiscalFrom } from "./FiscalFrom";
import { RulesEffect, useRulesEffect } from "./RulesEffect";

const draftOf = (company: Company): CompanyDraft => ({ ...company, holidays: holidayLines(company.holidays) });
const companyOf = (draft: CompanyDraft): Company => ({
	...draft,
	fiscalBefore: [...draft.fiscalBefore],
	weekend: [...draft.weekend],
	holidays: holidaysOf(draft.holidays),
});

const fiscalIn = ({ fiscalStartMonth, fiscalWeeks, fiscalBefore }: Pick<CompanyDraft, "fiscalStartMonth" | "fiscalWeeks" | "fiscalBefore">) => ({
	fiscalStartMonth,
	fiscalWeeks,
	fiscalBefore,
});
const calendarOf = (company: Company) => ({ ...fiscalIn(company), weekend: company.weekend, holidays: company.holidays });

/** The company's own settings; before its first deals, the ways to bring them in; and the demo company, while it is here. */
export function CompanyPanel({ view, mayChange }: { view: CompanyView; mayChange: boolean }) {
	const saved = useMemo(() => JSON.stringify(draftOf(view.company)), [view.company]);
	const [draft, setDraft] = useState<CompanyDraft>(() => JSON.parse(saved));
	useEffect(() => setDraft(JSON.parse(saved)), [saved]);
	const run = useRun();
	const act = useAct();
	const changed = JSON.stringify(draft) !== saved;
	const wish = JSON.stringify({ calendar: calendarOf(companyOf(draft)) });
	const before = companyOf(JSON.parse(saved));
	const moves = wish !== JSON.stringify({ calendar: calendarOf(before) });
	const fiscalMoves = JSON.stringify(fiscalIn(draft)) !== JSON.stringify(fiscalIn(before));
	const effect = useRulesEffect(mayChange && moves ? wish : null);
	return (
		<>
			{mayChange && view.first !== null && <FirstSteps first={view.first} />}
			<section className="panel">
				<h2>{view.company.name || "The company"}</h2>
				<fieldset disabled={!mayChange}>
					<CompanyFields
						draft={draft}
						setDraft={setDraft}
						zones={view.zones}
						currencies={view.currencies}
						currencyFixed={view.currencyFixed}
						calendar={<FiscalFrom draft={draft} before={before} today={view.today} set={(fiscalBefore) => setDraft({ ...draft, fiscalBefore })} />}
					/>
				</fieldset>
			</section>
			{changed && mayChange && (
				<div className="setup-bar">
					<div className="small-text" role="status">
						{moves && <RulesEffect state={effect} currency={view.company.baseCurrency} />}
						{draft.timeZone !== before.timeZone && (
							<span className="second d-block">Changing the time zone moves events around midnight to another day, also in the past.</span>
						)}
						{fiscalMoves && (
							<span className="second d-block">Rounds, tries and saved views keep their days. Targets count by their days; carry them over under Targets.</span>
						)}
					</div>
					<div className="d-flex gap-2">
						<Button variant="link" onClick={() => setDraft(JSON.parse(saved))}>
							Discard
						</Button>
						<Button
							disabled={moves && !effect.on}
							onClick={() =>
								void act(run("setup.saveCompany", companyOf(draft)), "Company saved.", () =>
									undone(run("setup.saveCompany", companyOf(JSON.parse(saved))), () => setDraft(JSON.parse(saved))),
								)
							}
						>
							Save company
						</Button>
					</div>
				</div>
			)}
		</>
	);
}

/** What a company without deals does next, or one that is the demo. */
function FirstSteps({ first }: { first: NonNullable<CompanyView["first"]> }) {
	const [sure, setSure] = useState(false);
	const run = useRun();
	const act = useAct();
	if (first === "no deals")
		return (
			<section className="panel mb-3">
				<h2>Import your first file</h2>
				<p className="second">Screens stay empty until deals are imported. Each of these can be undone.</p>
				<div className="d-flex gap-2 flex-wrap">
					<Link className="btn btn-primary" href="/setup?place=weekly">
						A weekly file of open deals
					</Link>
					<Link className="btn btn-outline-primary" href="/setup?place=bundle">
						A bundle with full history
					</Link>
					<Button variant="outline-primary" onClick={() => void act(run("begin.bringDemo", {}), "Loading the demo company; this takes half a minute.")}>
						The demo company, to explore
					</Button>
					<Link className="btn btn-link" href="/setup?place=people">
						People and teams
					</Link>
				</div>
			</section>
		);
	return (
		<section className="panel mb-3">
			<h2>This is the demo company</h2>
			<p className="second">Its people, deals and numbers are made up. Everything you try on it is deleted with it.</p>
			{first === "demo of others" ? (
				<Button
					variant="outline-primary"
					onClick={() => {
						if (!sure) return setSure(true);
						setSure(false);
						void act(run("begin.removeDemo", {}), "Demo company deleted.");
					}}
				>
					{sure ? "Confirm: delete it and everything tried on it" : "Delete demo company"}
				</Button>
			) : (
				<Link className="btn btn-primary" href="/begin">
					Set up your own company
				</Link>
			)}
		</section>
	);
}
