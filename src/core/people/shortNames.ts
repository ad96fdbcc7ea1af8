/**
 * What each of some people is called in short, each by a name of their own: the first name alone where nobody else has it,
 * else with as much of the last as it takes, else the whole name, and with what is beside it where even that is the same.
 *
 * @example shortNames([{ name: "Ana Ruiz" }, { name: "Ana Roth" }, { name: "Bo Sable" }]) // ["Ana Ru.", "Ana Ro.", "Bo"]
 */
export function shortNames(people: readonly { readonly name: string; readonly team?: string | null }[]): string[] {
	const forms = people.map(({ name, team }): string[] => {
		const [first = name, ...rest] = name.trim().split(/\s+/);
		const last = rest.at(-1) ?? "";
		const cut = Array.from({ length: Math.max(0, last.length - 1) }, (_, i) => `${first} ${last.slice(0, i + 1)}.`);
		return [first, ...cut, name, ...(team ? [`${name}, ${team}`] : [])];
	});
	return forms.map((own, i) => own.find((form) => forms.every((others, other) => other === i || !others.includes(form))) ?? own.at(-1) ?? "");
}

/**
 * The whole name of each of some people; of several of one name, with their team, or else their address or id.
 *
 * @example
 * toldApart([{ id: "1", name: "Ana Ruiz", team: "North" }, { id: "2", name: "Ana Ruiz", team: "South" }, { id: "3", name: "Bo Sable" }])
 * // ["Ana Ruiz, North", "Ana Ruiz, South", "Bo Sable"]
 */
export function toldApart(
	people: readonly { readonly id: string; readonly name: string; readonly team?: string | null; readonly email?: string | null }[],
): string[] {
	const count = (forms: readonly string[]) => forms.reduce((counts, form) => counts.set(form, (counts.get(form) ?? 0) + 1), new Map<string, number>());
	const names = count(people.map(({ name }) => name));
	const inTeam = people.map(({ name, team }) => (team && (names.get(name) ?? 0) > 1 ? `${name}, ${team}` : name));
	const forms = count(inTeam);
	return people.map(({ id, name, email }, i) => ((forms.get(inTeam[i] as string) ?? 0) > 1 ? `${name}, ${email ?? id}` : (inTeam[i] as string)));
}
