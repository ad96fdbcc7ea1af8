/** The made-up people of Emberwick Ovens, and the habits the demo's figures come from. */
export interface CastMember {
	readonly id: string;
	readonly name: string;
	readonly role: "manager" | "rep" | "ops" | "viewer";
	readonly team: string;
	readonly habit?: Habit;
}

export type Habit = "commits-early" | "pushes-at-month-end" | "back-and-forth" | "writes-no-answers" | "two-contacts" | "gives-much" | "gives-little" | "left";

export const COMPANY = "Emberwick";
const TEAMS = { North: "North", South: "South", Partners: "Partners" } as const;

const person = (id: string, name: string, role: CastMember["role"], team: string, habit?: Habit): CastMember => ({
	id,
	name,
	role,
	team,
	...(habit ? { habit } : {}),
});

export const CAST: readonly CastMember[] = [
	person("helena", "Helena Marwood", "manager", COMPANY),
	person("ruth", "Ruth Calloway", "manager", TEAMS.North),
	person("tomas", "Tomás Iriarte", "manager", TEAMS.South),
	person("adaeze", "Adaeze Nwosu", "manager", TEAMS.Partners),
	person("ines", "Ines Valdoro", "rep", TEAMS.North),
	person("tobias", "Tobias Renn", "rep", TEAMS.North, "commits-early"),
	person("maeve", "Maeve Okonjo", "rep", TEAMS.North, "pushes-at-month-end"),
	person("piotr", "Piotr Halvard", "rep", TEAMS.North),
	person("sunniva", "Sunniva Brack", "rep", TEAMS.North),
	person("luca", "Luca Ferrandi", "rep", TEAMS.South, "gives-much"),
	person("oriol", "Oriol Cantave", "rep", TEAMS.South, "back-and-forth"),
	person("nadia", "Nadia Benhaddou", "rep", TEAMS.South),
	person("gwen", "Gwen Tarrow", "rep", TEAMS.South, "writes-no-answers"),
	person("dario", "Dario Velez", "rep", TEAMS.South, "left"),
	person("yuki", "Yuki Tanemori", "rep", TEAMS.Partners, "two-contacts"),
	person("farah", "Farah Delacourt", "rep", TEAMS.Partners),
	person("bram", "Bram Oosterlin", "rep", TEAMS.Partners),
	person("celine", "Celine Abiodun", "rep", TEAMS.Partners, "gives-little"),
	person("arno", "Arno Vinter", "ops", COMPANY),
	person("mirela", "Mirela Stane", "viewer", COMPANY),
];

/** The address of somebody of the made-up company. */
export const emailOf = (member: { id: string }) => `${member.id}@emberwick.example`;
export const REPS = CAST.filter((member) => member.role === "rep");
/** The team somebody is in; empty for none. */
export const teamOf = (repId: string) => CAST.find((member) => member.id === repId)?.team ?? "";
