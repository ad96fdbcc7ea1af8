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
