/** What is kept as it was before each change, where it isn't kept with versions: of deals, of who is on them, of accounts and of contacts. */
export const FORMER_FIELDS = [
	"competitor",
	"outcome_reason",
	"name",
	"account",
	"on_deal",
	"role",
	"kind",
	"industry",
	"territory",
	"owner",
	"made",
	"title",
	"email",
	"reports_to",
] as const;
export type FormerField = (typeof FORMER_FIELDS)[number];
