/** What people write where there is nothing to say. */
const BLANKS = new Set([
	"-",
	"–",
	"—",
	"--",
	"n/a",
	"n.a.",
	"n. a.",
	"na",
	"tbd",
	"t.b.d.",
	"tba",
	"k.a.",
	"k. a.",
	"(blank)",
	"(empty)",
	"(leer)",
	"(vide)",
	"#",
]);

/** What a spreadsheet shows where it can't work a cell out. */
const ERROR = /^#(DIV\/0!|N\/A|REF!|VALUE!|NAME\?|NUM!|NULL!|SPILL!|CALC!|WERT!|BEZUG!|NV|VALEUR!|NOM\?)$/i;

/** The error a cell shows; null where it is none. */
export const errorIn = (cell: string): string | null => (ERROR.test(cell.trim()) ? cell.trim() : null);

/**
 * A cell as it is meant: without the `="…"` by which spreadsheets keep digits as text, and nothing where it says that there
 * is nothing.
 *
 * @example meant('="0042"') // "0042"
 * @example meant(" n/a ") // ""
 */
export function meant(cell: string): string {
	const text = cell
		.trim()
		.replace(/^="(.*)"$/s, "$1")
		.trim();
	return BLANKS.has(text.toLowerCase()) ? "" : text;
}

/** Names that stand where there is nobody. */
const NOBODY = new Set(
	"unassigned,not assigned,unknown,nobody,none,no owner,no rep,inactive,(inactive),former user,deleted user,nicht zugewiesen,nicht zugeordnet,unbekannt,niemand,keiner,non attribué,non assigné,inconnu,personne,sin asignar,no asignado,desconocido,nadie".split(
		",",
	),
);

/**
 * Whom a cell names; null for nobody. What says of somebody that they have left isn't part of their name.
 *
 * @example personIn("Ana Silva (inactive)") // "Ana Silva"
 * @example personIn("Unassigned") // null
 */
export function personIn(cell: string): string | null {
	const name = cell.replace(/\s*[([](inactive|inaktiv|inactif|inactivo|deactivated|deaktiviert|left|former|ex)[)\]]\s*/gi, " ").trim();
	return !name || NOBODY.has(name.toLowerCase()) || NOBODY.has(cell.trim().toLowerCase()) ? null : name;
}
