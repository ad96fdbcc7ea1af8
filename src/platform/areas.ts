/** The areas that a key may be made for: the program's capabilities by their keys. A test holds this list against them. */
export const AREAS = [
	"accounts",
	"begin",
	"boards",
	"calendars",
	"changes",
	"deals",
	"desk",
	"evidence",
	"import",
	"patterns",
	"people",
	"period",
	"reaching",
	"rounds",
	"search",
	"setup",
	"sheet",
	"tasks",
	"webhooks",
] as const;
export type Area = (typeof AREAS)[number];
