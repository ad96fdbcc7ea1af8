import type { Person, Role } from "@/data/organisation/state";
import { Fault } from "./fault";

/** Who acts: a person signed in, or acted for by a key. */
export interface Actor {
	readonly person: Person;
	readonly index: number;
	/** the key that acts for them; none where they act themselves */
	readonly key?: ActingKey;
}

/** What a key may do of what its person may. */
export interface ActingKey {
	readonly id: string;
	readonly write: boolean;
	/** areas (capabilities) by their keys; none: all */
	readonly areas: readonly string[];
}

/** Which roles may do what. The table is the whole truth about roles; whose deals they reach is `reachOf`. */
export const RIGHTS = {
	readDeals: ["manager", "rep", "ops", "viewer"],
	readChanges: ["manager", "rep", "ops", "viewer"],
	readPeriod: ["manager", "rep", "ops", "viewer"],
	setTargets: ["manager", "ops"],
	closePeriods: ["manager"],
	keepTries: ["manager", "rep", "ops", "viewer"],
	keepBoards: ["manager", "rep", "ops", "viewer"],
	openBoardsFor: ["manager", "ops"],
	keepMarks: ["manager", "ops"],
	readTables: ["manager", "rep", "ops", "viewer"],
	readTasks: ["manager", "rep", "ops", "viewer"],
	readRounds: ["manager", "rep", "ops", "viewer"],
	holdRounds: ["manager"],
	prepareRounds: ["manager", "rep"],
	askRests: ["manager", "rep"],
	readPatterns: ["manager", "rep", "ops", "viewer"],
	readDesk: ["manager", "rep", "ops", "viewer"],
	assignTasks: ["manager", "rep"],
	changeTask: ["manager", "rep"],
	editDeals: ["manager", "rep"],
	editAccounts: ["manager", "rep", "ops"],
	mergeAccounts: ["manager", "ops"],
	answerQuestions: ["manager", "rep"],
	writeNotes: ["manager", "rep"],
	readRules: ["manager", "rep", "ops", "viewer"],
	changeRules: ["ops"],
	keepViews: ["manager", "rep", "ops", "viewer"],
	search: ["manager", "rep", "ops", "viewer"],
	readAccounts: ["manager", "rep", "ops", "viewer"],
	sendRegularly: ["manager", "ops", "viewer"],
	readAudit: ["ops"],
	readRunning: ["ops"],
	readPeople: ["manager", "rep", "ops", "viewer"],
	managePeople: ["ops"],
	manageSignIn: ["ops"],
	handOver: ["manager", "ops"],
	importBundle: ["ops"],
	readImports: ["ops"],
	exportBundle: ["ops"],
	readMail: ["ops"],
	manageHooks: ["ops"],
	changeClock: ["ops"],
	ownSignIn: ["manager", "rep", "ops", "viewer"],
	ownKeys: ["manager", "rep", "ops", "viewer"],
} as const satisfies Record<string, readonly Role[]>;
export type Right = keyof typeof RIGHTS;

/** Whether somebody’s role has a right. */
export function may(actor: Actor, right: Right): boolean {
	return (RIGHTS[right] as readonly Role[]).includes(actor.person.role);
}

/** Throws a 403 unless the actor's role has the right. */
export function demand(actor: Actor, right: Right): void {
	if (!may(actor, right)) {
		throw new Fault(403, "Not allowed", `Your role (${actor.person.role}) may not do this. Ask a colleague of ops or your manager.`);
	}
}

/** What is asked for: a command or a read, by its name. */
interface Asked {
	readonly name: string;
	readonly right: Right;
	readonly writes: boolean;
}

/** Throws a 403 unless the actor's role has the right, and the key that acts for them (if one does) may do this. */
export function authorize(actor: Actor, { name, right, writes }: Asked): void {
	demand(actor, right);
	const { key } = actor;
	if (!key) return;
	const area = name.split(".")[0] as string;
	if (writes && !key.write) throw new Fault(403, "Not allowed", "This key may only read.");
	if (key.areas.length && !key.areas.includes(area))
		throw new Fault(403, "Not allowed", `This key may not be used for ${area}; it was made for ${key.areas.join(", ")}.`);
}
