import { parseDay } from "../../core/time/day";

/** Names in a list parted by commas, one list a language. */
function words(...lists: readonly string[]): readonly string[] {
	return lists.flatMap((list) => list.split(",").map((name) => name.trim()));
}

/** What a weekly export can tell of a deal, and what its columns are called in English, German, French and Spanish. */
export const WEEKLY_FIELDS = [
	{
		key: "id",
		label: "Deal number",
		needed: false,
		names: words(
			"id, deal id, deal number, deal no, number, reference, ref, record id, opportunity id, opportunity number, opportunity no, opp id, opp no, key",
			"nummer, nr, vorgangsnummer, deal nummer, chance nr, chancennummer, verkaufschance nr, referenz, kennung",
			"numéro, no, numéro d affaire, référence, réf, identifiant, id opportunité",
			"número, número de oportunidad, núm, referencia, identificador, id oportunidad",
		),
	},
	{
		key: "name",
		label: "Deal",
		needed: true,
		names: words(
			"deal, name, deal name, title, subject, opportunity, opportunity name, project",
			"bezeichnung, titel, betreff, chance, verkaufschance, projekt, vorgang, geschäft",
			"nom, titre, objet, affaire, opportunité, nom de l opportunité, projet",
			"nombre, título, asunto, oportunidad, nombre de la oportunidad, proyecto, negocio",
		),
	},
	{
		key: "account",
		label: "Account",
		needed: false,
		names: words(
			"account, account name, company, company name, customer, customer name, client, organisation, organization",
			"kunde, kundenname, firma, unternehmen, konto",
			"compte, nom du compte, client, société, entreprise",
			"cuenta, nombre de la cuenta, cliente, empresa, compañía",
		),
		/** names with such a word in them are somebody, or a number, rather than an account */
		never: /\b(manager|owner|rep|team|type|status|betreuer|manager|responsable|gestor|id|number|nr|nummer)\b/,
	},
	{
		key: "stage",
		label: "Stage",
		needed: true,
		names: words(
			"stage, sales stage, deal stage, phase, step, status, pipeline stage",
			"phase, verkaufsphase, stufe, vertriebsphase, stand",
			"étape, phase, statut, stade",
			"etapa, fase, estado",
		),
	},
	{
		key: "amount",
		label: "Amount",
		needed: true,
		names: words(
			"amount, value, deal value, total contract value, tcv, contract value, sum, total, revenue, price, worth",
			"betrag, wert, summe, volumen, umsatz, auftragswert, preis",
			"montant, valeur, somme, prix, chiffre d affaires",
			"importe, monto, valor, cantidad, ingresos, precio",
		),
		/** what is weighed by a chance isn't the amount */
		never:
			/\b(currency|weighted|probability|probable|expected revenue|gewichtet|gewichteter|wahrscheinlichkeit|erwarteter umsatz|pondéré|probabilité|ponderado|probabilidad|währung|devise|moneda|code)\b/,
	},
	{
		key: "currency",
		label: "Currency",
		needed: false,
		names: words("currency, currency code, amount currency", "währung, währungscode", "devise, monnaie", "moneda, divisa"),
	},
	{
		key: "closeDate",
		label: "Close date",
		needed: true,
		names: words(
			"close date, closing date, expected close, expected close date, close, closes, due, due date",
			"abschluss, abschlussdatum, abschlusstermin, erwarteter abschluss, erwartetes abschlussdatum, schlussdatum",
			"date de clôture, clôture, date de clôture prévue, échéance, date de signature",
			"fecha de cierre, cierre, fecha de cierre prevista, cierre previsto, vencimiento",
		),
	},
	{
		key: "owner",
		label: "Rep",
		needed: true,
		names: words(
			"owner, rep, sales rep, salesperson, seller, responsible, deal owner, opportunity owner",
			"besitzer, inhaber, verantwortlich, verantwortlicher, zuständig, verkäufer, vertriebler, bearbeiter, chanceninhaber",
			"propriétaire, responsable, commercial, vendeur, propriétaire de l opportunité",
			"propietario, responsable, comercial, vendedor, propietario de la oportunidad",
		),
		/** who looks after the account isn't who sells the deal */
		never: /\b(account|customer|client|kunden|kunde|compte|cuenta)\b/,
	},
	{
		key: "category",
		label: "Category",
		needed: false,
		names: words(
			"category, forecast category, forecast",
			"kategorie, prognosekategorie, prognose",
			"catégorie, catégorie de prévision, prévision",
			"categoría, categoría de previsión, previsión, pronóstico",
		),
	},
	{
		key: "nextStep",
		label: "Next step",
		needed: false,
		names: words(
			"next step, next action, next activity, next steps, to do",
			"nächster schritt, nächste schritte, nächste aktivität, nächste aktion",
			"prochaine étape, prochaine action, prochaine activité",
			"próximo paso, siguiente paso, próxima acción, próxima actividad",
		),
	},
	{
		key: "nextStepDate",
		label: "Next step’s day",
		needed: false,
		names: words(
			"next step date, next step day, next action date, next activity date, follow up, follow up date",
			"datum nächster schritt, nächster schritt am, nächster schritt datum, wiedervorlage, wiedervorlage am",
			"date de la prochaine étape, date prochaine étape, relance, date de relance",
			"fecha del próximo paso, fecha próximo paso, seguimiento, fecha de seguimiento",
		),
	},
	{
		key: "source",
		label: "Source",
		needed: false,
		names: words("source, lead source, origin, channel", "quelle, leadquelle, herkunft, kanal", "origine, provenance, canal", "origen, fuente, canal"),
	},
	{
		key: "created",
		label: "Created",
		needed: false,
		names: words(
			"created, created on, created date, created at, creation date, opened, opened on",
			"erstellt, erstellt am, erstelldatum, angelegt, angelegt am, erfasst am",
			"créé, créé le, date de création, ouvert le",
			"creado, creado el, fecha de creación, abierto el",
		),
	},
] as const;
export type WeeklyField = (typeof WEEKLY_FIELDS)[number]["key"];

/** Their column for each of our fields; null where there is none. */
export type Columns = Readonly<Record<WeeklyField, string | null>>;

/** A name as it is compared: small letters and digits, one space between words. */
export const comparable = (text: string) =>
	text
		.toLowerCase()
		.replace(/[^\p{L}\p{N}]+/gu, " ")
		.trim();

/**
 * A guess at each column: what was said before where the column is still there, else a name that means it, else a
 * name that contains one that does. No column is used twice.
 */
export function guessColumns(header: readonly string[], remembered: Partial<Columns> | null): Columns {
	const free = new Set(header.filter(Boolean));
	const found: Partial<Record<WeeklyField, string | null>> = {};
	const take = (key: WeeklyField, name: string | undefined) => {
		if (name === undefined || found[key] || !free.has(name)) return;
		found[key] = name;
		free.delete(name);
	};
	for (const { key } of WEEKLY_FIELDS) take(key, remembered?.[key] ?? undefined);
	// What was said to have no column has none.
	for (const { key } of WEEKLY_FIELDS) if (remembered && remembered[key] === null) found[key] = null;
	const open = () => WEEKLY_FIELDS.filter(({ key }) => found[key] === undefined);
	for (const { key, names } of open())
		take(
			key,
			[...free].find((name) => names.includes(comparable(name))),
		);
	// Of names that only contain one, the longest match goes first: "Deal owner name" is rather the owner's.
	const within = open().flatMap((field) =>
		[...free]
			.filter((name) => !("never" in field && field.never.test(comparable(name))))
			.map((name) => ({
				key: field.key,
				name,
				length: Math.max(0, ...field.names.filter((one) => one.length > 3 && ` ${comparable(name)} `.includes(` ${one} `)).map((one) => one.length)),
			})),
	);
	for (const { key, name, length } of within.sort((a, b) => b.length - a.length)) if (length) take(key, name);
	return Object.fromEntries(WEEKLY_FIELDS.map(({ key }) => [key, found[key] ?? null])) as Columns;
}

/** A column that is mapped to two fields; null when none is. */
export function mappedTwice(columns: Columns): { column: string; fields: string[] } | null {
	for (const column of new Set(Object.values(columns))) {
		const fields = WEEKLY_FIELDS.filter(({ key }) => column !== null && columns[key] === column).map(({ label }) => label);
		if (column !== null && fields.length > 1) return { column, fields };
	}
	return null;
}

/** The day a file was taken by its name: `pipeline-2026-11-16.csv`, `export 16.11.2026.csv`, `20261116.csv`; null where the name says none. */
export function dayFromName(name: string): string | null {
	const pad = (text: string) => text.padStart(2, "0");
	const year = /(?<!\d)(20\d\d)[-_. ]?(\d\d)[-_. ]?(\d\d)(?!\d)/.exec(name);
	if (year) return sound(`${year[1]}-${year[2]}-${year[3]}`);
	const last = /(?<!\d)(\d{1,2})[-_. ](\d{1,2})[-_. ](20\d\d)(?!\d)/.exec(name);
	// With the year last, a number over twelve says which of the two is the day; else it isn't sure, and is asked.
	if (!last) return null;
	const [a, b] = [Number(last[1]), Number(last[2])];
	if (name.includes(`${last[1]}.${last[2]}.`) || a > 12) return sound(`${last[3]}-${pad(String(b))}-${pad(String(a))}`);
	return b > 12 ? sound(`${last[3]}-${pad(String(a))}-${pad(String(b))}`) : null;
}

/** The day, if it is one of the calendar. */
const sound = (iso: string): string | null => (parseDay(iso) === null ? null : iso);
