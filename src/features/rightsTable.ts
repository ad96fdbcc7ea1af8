import { ROLES } from "@/data/organisation/state";
import { RIGHTS, type Right } from "@/platform/rights";
import { API_ROUTES, COMMANDS, LOOKUPS, QUERIES } from "./registry";

const known = [...COMMANDS, ...LOOKUPS, ...QUERIES] as readonly { readonly name: string; readonly kind: string; readonly right: Right }[];

/** The table of rights as Markdown: which role may do what, and what each right is asked for; made from the lists themselves. */
export function rightsTable(): string {
	const names = (right: Right, write: boolean) =>
		known
			.filter((one) => one.right === right && (one.kind === "command") === write)
			.map((one) => `\`${one.name}\``)
			.sort()
			.join(" ");
	const rows = (Object.keys(RIGHTS) as Right[]).map((right) => {
		const roles = ROLES.map((role) => ((RIGHTS[right] as readonly string[]).includes(role) ? "yes" : "–"));
		return `| ${[right, ...roles, names(right, true), names(right, false)].join(" | ")} |`;
	});
	const calls = API_ROUTES.map(({ method, path, summary }) => `| \`${method.toUpperCase()} /api/v1${path}\` | ${summary} |`);
	return [
		`| right | ${ROLES.join(" | ")} | writes | reads |`,
		`|${"---|".repeat(ROLES.length + 3)}`,
		...rows,
		"",
		"## Calls of the API",
		"Each asks for the rights of what it calls.",
		"",
		"| call | what it does |",
		"|---|---|",
		...calls,
	].join("\n");
}

export const RIGHTS_DOC = "docs/rights.md";

/** The text of docs/rights.md: every command, query and route with the roles that may. */
export const rightsDocument = (): string => `# Rights

Made by \`npm run rights\` from what the program itself goes by; a test compares. Which role may do what is checked on the server with every read and write. *Whose* deals a person reaches is another matter: a rep their own; a manager or viewer those of their team and the teams below; ops, and people above all teams, everyone’s. A deal out of reach is answered as not found.

${rightsTable()}
`;
