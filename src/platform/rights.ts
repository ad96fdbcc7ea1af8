import type { Person, Role } from "@/data/organisation/state";
import { Fault } from "./fault";

/** Who acts: a person signed in, or acted for by a key. */
export interface Actor {
	readonly person: Person;
	readonly index: number;
}

/** Which roles may do what. The table is the whole truth about roles; whose deals they reach is `reachOf`. */
export const RIGHTS = {
	readDeals: ["manager", "rep", "ops", "viewer"],
	readChanges: ["manager", "rep", "ops", "viewer"],
	keepMarks: ["manager", "ops"],
	readTasks: ["manager", "rep", "ops", "viewer"],
	readDesk: ["manager", "rep", "ops", "viewer"],
	assignTasks: ["manager", "rep"],
	changeTask: ["manager", "rep"],
	editDeals: ["manager", "rep"],
	answerQuestions: ["manager", "rep"],
	writeNotes: ["manager", "rep"],
	readRules: ["manager", "rep", "ops", "viewer"],
	changeRules: ["ops"],
	keepViews: ["manager", "rep", "ops", "viewer"],
	search: ["manager", "rep", "ops", "viewer"],
	readAccounts: ["manager", "rep", "ops", "viewer"],
	readAudit: ["ops"],
	readPeople: ["manager", "rep", "ops", "viewer"],
	importBundle: ["ops"],
	readImports: ["ops"],
	exportBundle: ["ops"],
	changeClock: ["ops"],
	ownKeys: ["manager", "rep", "ops", "viewer"],
} as const satisfies Record<string, readonly Role[]>;
export type Right = keyof typeof RIGHTS;

export function may(actor: Actor, right: Right): boolean {
	return (RIGHTS[right] as readonly Role[]).includes(actor.person.role);
}

/** Throws a 403 unless the actor's role has the right. */
export function demand(actor: Actor, right: Right): void {
	if (!may(actor, right)) {
		throw new Fault(403, "Not allowed", `Your role (${actor.person.role}) may not do this. Ask a colleague of ops or your manager.`);
	}
}
