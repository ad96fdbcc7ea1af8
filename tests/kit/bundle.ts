import type { Known } from "@/formats/bundle/checkShapes";
import type { RawFiles } from "@/formats/bundle/model";

/** A bundle written as text: files by name, a line an entry. */
export function bundleOf(files: Record<string, string | string[]>): RawFiles {
	const encoder = new TextEncoder();
	return new Map(Object.entries(files).map(([name, lines]) => [name, encoder.encode(typeof lines === "string" ? lines : `${lines.join("\n")}\n`)]));
}

/** The six required files and settings, small and sound: two teams, one deal with two versions. */
export const SMALL: Record<string, string[]> = {
	"people.csv": [
		"id,name,email,role,team,parent_team,active_from,active_to",
		"boss,Bo Sable,boss@firm.example,manager,Firm,,,",
		"north,Nora Thistle,north@firm.example,manager,North,Firm,,",
		"rep1,Rae Penn,rae@firm.example,rep,North,Firm,,",
		"rep2,Sol Quint,sol@firm.example,rep,South,Firm,,",
		"gone,Gil Orr,gil@firm.example,rep,North,Firm,2025-01-01,2026-10-31",
		"ops,Oda Pell,ops@firm.example,ops,Firm,,,",
		"view,Vi Marsh,view@firm.example,viewer,North,Firm,,",
	],
	"accounts.csv": ["id,name,kind,industry,territory,owner_id", "a1,Millrace Bread,customer,Bakery,Coast,rep1", "a2,Oat Inn,prospect,Hotel,Alps,rep2"],
	"stages.csv": [
		"position,name,kind,probability,usual_days",
		"1,Enquiry,open,0.1,10",
		"2,Survey,open,0.3,10",
		"3,Terms,open,0.8,10",
		"4,Won,won,1,0",
		"5,Lost,lost,0,0",
	],
	"deals.csv": [
		"id,account_id,name,source,created_at,competitor,outcome_reason,tags",
		"d1,a1,Deck ovens,Fair,2026-11-02T09:00:00Z,,,summer|energy",
		"d2,a2,Mixers,Web,2026-11-03T09:00:00Z,,,",
		"d3,a1,Left behind,Web,2026-10-05T09:00:00Z,,,",
	],
	"deal_versions.csv": [
		"deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date",
		"d1,2026-11-02T09:00:00Z,Enquiry,1000.50,EUR,2026-12-01,rep1,pipeline,Call,2026-11-05",
		"d1,2026-11-10T09:00:00Z,Survey,1200,EUR,2026-12-18,rep1,best_case,Visit,2026-11-20",
		"d2,2026-11-03T09:00:00Z,Enquiry,500,EUR,2026-12-10,rep2,pipeline,,",
		"d3,2026-10-05T09:00:00Z,Terms,700,EUR,2026-12-10,gone,commit,,",
	],
	"settings.json": ['{"timeZone":"Europe/Berlin","baseCurrency":"EUR","fiscalYearStartMonth":1,"weekend":[0,6],"today":"2026-11-24"}'],
};

/** SMALL with some files replaced, added or (null) left out. */
export function small(changes: Record<string, string | string[] | null> = {}): RawFiles {
	const files: Record<string, string | string[]> = { ...SMALL };
	for (const [name, lines] of Object.entries(changes)) {
		if (lines === null) delete files[name];
		else files[name] = lines;
	}
	return bundleOf(files);
}

/** One of SMALL's files with more lines at its end. */
export const more = (file: string, ...lines: string[]): Record<string, string[]> => ({ [file]: [...(SMALL[file] ?? []), ...lines] });

/** What a bundle is checked against where nothing is there yet. */
export const NOTHING_KNOWN: Known = {
	ids: new Map(),
	rateCurrencies: new Set(),
	baseCurrency: "EUR",
	teamParents: new Map(),
	merged: { "people.csv": new Map(), "accounts.csv": new Map() },
	emails: new Map(),
	createdAt: new Map(),
	latest: Date.parse("2100-01-01"),
	stagePositions: new Map(),
};
