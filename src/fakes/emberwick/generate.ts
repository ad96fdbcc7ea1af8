import { type Day, formatDay, parts } from "../../core/time/day";
import { spokenDay } from "../../core/time/words";
import type { RawFiles } from "../../formats/bundle/model";
import { writeBundle } from "../../formats/bundle/write";
import { makeAccounts } from "./accounts";
import { almanac, Chance, holidaysAround, TIME_ZONE } from "./almanac";
import { addAsides } from "./asides";
import { CAST, COMPANY, emailOf } from "./cast";
import { liveDeal } from "./deal";
import { Ledger } from "./ledger";
import { addOldHabits } from "./old";
import { addPapers } from "./papers";
import { tellStories } from "./story";
import { setTargets } from "./targets";
import { LOSS_REASONS, QUESTIONS, STAGES } from "./words";

export interface Recipe {
	/** the day the company's data ends on */
	readonly today: Day;
	readonly seed?: string;
	/** how many deals besides those of the story */
	readonly deals?: number;
	/** how far whole quarters go up and down together: the standard deviation of the log odds of winning; 0 where left out */
	readonly spread?: number;
}

const MONTHS_BACK = 30;
/** of all deals so many are there from the first weeks on: the pipeline that history begins with */
const FIRST = 0.09;

/** The rows of Emberwick Ovens, before they are written as text. */
export function ledgerOf({ today, seed = "lamp 18", deals = 1191, spread = 0 }: Recipe): Ledger {
	const alm = almanac(today);
	const ledger = new Ledger(alm);
	const start = alm.onWorkingDay(today - MONTHS_BACK * 30);
	const left = alm.back(today, 38);

	addRules(ledger, start, today);
	addPeople(ledger, start, left);
	tellStories(ledger, new Chance(`${seed} story`));
	const accounts = makeAccounts(ledger, new Chance(`${seed} accounts`), Math.max(20, Math.round(deals / 5)));
	const span = alm.calendar.between(start, today);
	for (let i = 0; i < deals; i++) {
		const chance = new Chance(`${seed} ${i}`);
		let account = chance.pick(accounts);
		const created = alm.calendar.add(start, Math.floor(i < deals * FIRST ? chance.unit() * 20 : span * chance.unit() ** 0.55 * 0.995));
		if (account.owner === "dario" && created > left) account = accounts.find((a) => a.owner === "luca") ?? account;
		liveDeal(ledger, chance, {
			id: `deal-${String(i + 1).padStart(4, "0")}`,
			account,
			created,
			ownerLeft: account.owner === "dario" ? left : null,
			...(spread ? { going: { shift: (days) => shiftOf(seed, spread, alm.calendar.add(created, days)), chance: new Chance(`${seed} ${i} going`) } } : {}),
		});
	}
	setTargets(ledger, start, seed);
	addOldHabits(ledger, seed);
	addAsides(ledger, seed);
	return ledger;
}

/** By how much the log odds of winning are shifted in the quarter of a day: normally spread, the same for all deals that end in it. */
export function shiftOf(seed: string, spread: number, day: Day): number {
	const { year, month } = parts(day);
	const { unit } = new Chance(`${seed} quarter ${year} ${Math.ceil(month / 3)}`);
	return spread * Math.sqrt(-2 * Math.log(1 - unit())) * Math.cos(2 * Math.PI * unit());
}

/** Emberwick Ovens as a bundle: the same recipe always gives the same bytes. */
export function generate(recipe: Recipe): RawFiles {
	const ledger = ledgerOf(recipe);
	const papers = addPapers(ledger, recipe.seed ?? "lamp 18");
	const tables = writeBundle(
		ledger.rows,
		{
			timeZone: TIME_ZONE,
			baseCurrency: "EUR",
			fiscalYearStartMonth: 1,
			weekend: [0, 6],
			today: formatDay(recipe.today),
			activityKinds: { visit: { stagePosition: 2 }, demo: { stagePosition: 3 } },
			flags: {},
			outcomeReasons: [...LOSS_REASONS],
			reasonReturns: { "Budget moved to next year": "year", "Bought used": 24, "No decision": 6 },
		},
		"EUR",
	);
	return new Map([...tables, ...papers]);
}

function addPeople(ledger: Ledger, start: Day, left: Day): void {
	for (const member of CAST) {
		ledger.add("people.csv", {
			id: member.id,
			name: member.name,
			email: emailOf(member),
			role: member.role,
			team: member.team,
			parent_team: member.team === COMPANY ? null : COMPANY,
			active_from: formatDay(start - 400),
			active_to: member.habit === "left" ? formatDay(left) : null,
		});
	}
}

function addRules(ledger: Ledger, start: Day, today: Day): void {
	STAGES.forEach((stage, i) =>
		ledger.add("stages.csv", { position: i + 1, name: stage.name, kind: "open", probability: stage.probability, usual_days: String(stage.usual) }),
	);
	ledger.add("stages.csv", { position: 6, name: "Won", kind: "won", probability: "1", usual_days: "0" });
	ledger.add("stages.csv", { position: 7, name: "Lost", kind: "lost", probability: "0", usual_days: "0" });
	for (const q of QUESTIONS) {
		ledger.add("questions.csv", { id: q.id, area: q.area, prompt: q.prompt, help: q.help, weight: String(q.weight), due_stage_position: q.due, key: q.key });
	}
	for (const holiday of holidaysAround(today)) ledger.add("holidays.csv", { date: formatDay(holiday.day), name: holiday.name });

	const chance = new Chance("rates");
	const value: Record<string, number> = { GBP: 1.163, CHF: 1.064, SEK: 0.0893 };
	for (let day = start - 30; day <= today; day++) {
		if (parts(day).date !== 1) continue;
		for (const code of Object.keys(value).sort()) {
			value[code] = (value[code] ?? 1) * (0.99 + chance.unit() * 0.02);
			ledger.add("rates.csv", { currency: code, date: formatDay(day), rate: String(Number((value[code] ?? 1).toFixed(5))) });
		}
	}
	const { almanac: alm } = ledger;
	for (let day = start; day < today; day++) {
		ledger.add("marks.csv", { at: alm.at(day, 15 * 60 + 59), name: "Night" });
		if (alm.calendar.isWorking(day) && (day + 4) % 7 === 1) ledger.add("marks.csv", { at: alm.at(day, 30), name: "Monday round" });
		if (parts(day).date === 1 && parts(day).month % 3 === 1) ledger.add("marks.csv", { at: alm.at(day, -479), name: `Quarter start, ${spokenDay(day)}` });
	}
}
