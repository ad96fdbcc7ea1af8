/** Made-up names and phrases. None of them is a real company or person. */

export const ACCOUNT_FIRST = [
	"Saltmarsh", "Nine Loaves", "Quay Street", "Larkfield", "Thistle & Rye", "Old Mill", "Candlewick", "Bramble & Co", "Orchard Pantry",
	"Harbour Mills", "Juniper", "Penny Loaf", "Copper Kettle", "Fenwater", "Goldcrust", "Hollybank", "Islay Road", "Jackdaw", "Kestrel Lane",
	"Lanternhouse", "Millrace", "Northgate", "Oat & Acorn", "Pebble Hill", "Quillfeather", "Rosehip", "Stonebridge", "Tallow & Wick",
	"Underhill", "Violet Row", "Wheatear", "Yarrow", "Zinnia", "Ashgrove", "Birchwood", "Cinder Lane", "Driftwood", "Elderflower",
	"Foxglove", "Greenshutter", "Heronsgate", "Ivy Court", "Juno & Rye", "Kingfisher", "Lowtide", "Marigold", "Nettlebed", "Oldcastle",
	"Plumtree", "Quince & Pear", "Redgate", "Sunday Oven", "Three Sheaves", "Upland", "Vesper", "Windmill Row", "Wren & Barley", "Yewtree",
];
export const ACCOUNT_LAST: Record<string, readonly string[]> = {
	Bakery: ["Bakehouse", "Bakery", "Patisserie", "Breads", "Bagels"],
	"Bakery chain": ["Bakeries", "Bread Group", "Co-op"],
	Hotel: ["Hotels", "Grand Hotel", "Inns"],
	Supermarket: ["Foods", "Markets", "Stores"],
};
export const FIRST_NAMES = [
	"Jonas", "Lea", "Amara", "Viktor", "Sofia", "Henrik", "Priya", "Matteo", "Ingrid", "Kwame", "Elise", "Rafael", "Noor", "Stefan", "Marta",
	"Dylan", "Aiko", "Bianca", "Casper", "Delia", "Emil", "Freya", "Gustav", "Hana", "Ivo", "Judit", "Karim", "Leonie", "Milan", "Nerys",
	"Oskar", "Paloma", "Quentin", "Rosa", "Samir", "Tilda", "Ulrik", "Vera", "Wanda", "Xenia", "Yusuf", "Zora",
];
export const LAST_NAMES = [
	"Abara", "Stamm", "Okafor", "Lindqvist", "Moreau", "Brandt", "Castellan", "Dvorak", "Eriksen", "Fontaine", "Gallagher", "Hoshino",
	"Ivanov", "Jansen", "Kovac", "Lombardi", "Mbeki", "Novak", "Oduya", "Petrov", "Quiroga", "Rahman", "Santoro", "Thorne", "Ueda",
	"Varga", "Weston", "Xylander", "Yilmaz", "Zanetti", "Almeida", "Bergstrom", "Cormack", "Devereux",
];
export const TITLES: Record<string, readonly string[]> = {
	decision_maker: ["Managing director", "Owner", "Head of finance", "Operations director"],
	champion: ["Head baker", "Site manager", "Production lead"],
	influencer: ["Purchasing manager", "Food safety lead", "Engineer"],
	user: ["Shift lead", "Baker"],
	unknown: ["Office manager", "Assistant"],
};

export interface Family {
	readonly name: string;
	/** weight among new deals, amount range in thousands of euros, and how long its path is against the usual */
	readonly share: number;
	readonly low: number;
	readonly high: number;
	readonly pace: number;
	readonly products: readonly { name: string; price: number }[];
	readonly deals: readonly string[];
}

export const FAMILIES: readonly Family[] = [
	{
		name: "Deck and rack ovens", share: 0.4, low: 42, high: 420, pace: 1,
		products: [{ name: "Deck oven D4", price: 38_500 }, { name: "Rack oven R2", price: 46_800 }, { name: "Steam hood", price: 4_200 }],
		deals: ["Deck oven line refit", "Rack ovens, two sites", "Compact ovens ×{n}", "Rack oven replacement", "Deck ovens, new shop", "Retail bake-off pilot", "Night shift ovens", "Oven swap before summer"],
	},
	{
		name: "Tunnel ovens", share: 0.1, low: 390, high: 1450, pace: 1.7,
		products: [{ name: "Tunnel oven T18", price: 492_000 }, { name: "Cooling conveyor", price: 68_000 }, { name: "Heat recovery", price: 54_000 }],
		deals: ["New plant, phase one", "Tunnel oven feasibility", "Tunnel line for rolls", "Flatbread tunnel line", "Second tunnel line"],
	},
	{
		name: "Proofing and mixing", share: 0.28, low: 14, high: 160, pace: 0.8,
		products: [{ name: "Retarder proofer P6", price: 21_400 }, { name: "Spiral mixer S120", price: 18_900 }, { name: "Bowl lift", price: 6_300 }],
		deals: ["Proofer upgrade", "Spiral mixers ×{n}", "Proof room rebuild", "Mixer fleet", "Cold proofing trial", "Mixers for the sourdough room"],
	},
	{
		name: "Service plans", share: 0.22, low: 4, high: 48, pace: 0.5,
		products: [{ name: "Service plan, one year", price: 5_900 }, { name: "Burner inspection", price: 1_450 }],
		deals: ["Service plan renewal", "Service plan, three years", "Service plan for new ovens", "Night call-out cover", "Burner inspections, all shops"],
	},
];

export const STAGES = [
	{ name: "Enquiry", usual: 10, probability: "0.1" },
	{ name: "Site survey", usual: 12, probability: "0.25" },
	{ name: "Trial bake", usual: 18, probability: "0.4" },
	{ name: "Proposal", usual: 16, probability: "0.6" },
	{ name: "Terms", usual: 12, probability: "0.8" },
] as const;

/** What is talked about in each stage: to them, from them, together, among us, and the next step. */
export const TALK: readonly Record<"out" | "in" | "both" | "none" | "next", readonly string[]>[] = [
	{
		out: ["Brochure and price range for the {p}", "Questions about the present ovens", "Proposed dates for a site survey"],
		in: ["Asks what a {p} needs in power and floor", "Wants to know how soon you could visit", "Sends floor plan and shift times"],
		both: ["First call: volumes and what hurts", "Call with the head baker about the morning rush"],
		none: ["Came by the trade fair stand twice", "Existing boiler may be too small, check on site"],
		next: ["Fix a day for the survey", "Get the floor plan", "Call the head baker back"],
	},
	{
		out: ["Survey report sent", "Asked for electricity plans", "Proposed two days for a trial bake"],
		in: ["Corrects the door width in the survey", "Asks whether the chimney can stay", "Sends photos of the loading bay"],
		both: ["Site survey with the site manager", "Walked the bakery at night shift", "Call about the survey's findings"],
		none: ["Floor load is fine, door is tight", "Landlord has to agree to the chimney"],
		next: ["Book the trial bake", "Get the landlord's word on the chimney", "Send the survey report"],
	},
	{
		out: ["Trial bake invitation for their own dough", "Results of the trial bake", "Sent crumb pictures and bake times"],
		in: ["Wants to repeat the trial with rye", "Asks for energy use per tray", "Head baker is happy with the crust"],
		both: ["Trial bake at our test kitchen", "Second trial bake with rye dough", "Call after the trial: crust good, steam to adjust"],
		none: ["Steam setting 4 was best for the baguettes", "They compared with their old oven side by side"],
		next: ["Send trial results with figures", "Repeat the trial with rye", "Agree what the proposal should hold"],
	},
	{
		out: ["Proposal sent", "Revised offer with delivery in two lots", "Energy calculation for the board"],
		in: ["Asks for a lower price on the second site", "Asks what installation in August would cost", "Finance wants the payment plan changed"],
		both: ["Went through the proposal with purchasing", "Meeting: payback and payment plan", "Call with finance about leasing"],
		none: ["Their board meets on the first Tuesday", "Leasing would fit their budget year better"],
		next: ["Walk finance through the payback", "Answer the question on installation", "Get the board's date"],
	},
	{
		out: ["Contract draft sent", "Asked for the order number", "Confirmed the installation window"],
		in: ["Lawyer has two changes to the warranty", "When can you start on site two?", "Asks for the spare parts list"],
		both: ["Terms meeting: warranty and penalty days", "Call: order number comes after the board", "Meeting with the site manager and finance"],
		none: ["Legal agreed to the warranty change", "Installation crew is free from week 3"],
		next: ["Get the signature", "Agree the installation window", "Clear the warranty clause with legal"],
	},
];

export const QUESTIONS = [
	{ id: "trouble", area: "Need", prompt: "What trouble is worth paying to end?", weight: 2, due: 1, key: true, help: "In their words, with what it costs them." },
	{ id: "worth", area: "Need", prompt: "What is the fix worth to them, in their figures?", weight: 2, due: 2, key: false, help: "Energy, hours, waste or new sales, as they count them." },
	{ id: "nothing", area: "Need", prompt: "What happens if they do nothing?", weight: 1, due: 3, key: false, help: "Doing nothing is the rival in every deal." },
	{ id: "signs", area: "People", prompt: "Who signs, and have we met them?", weight: 3, due: 3, key: true, help: "A name, and a meeting that took place." },
	{ id: "ally", area: "People", prompt: "Who inside wants this and says so?", weight: 2, due: 2, key: false, help: "Somebody who argues for it when we aren't there." },
	{ id: "steps", area: "Way to yes", prompt: "Which steps lie between yes and the signature?", weight: 2, due: 4, key: true, help: "Board, legal, finance, landlord: each with a day." },
	{ id: "money", area: "Way to yes", prompt: "Where does the money come from?", weight: 2, due: 4, key: false, help: "This year's budget, leasing or a bank." },
	{ id: "date", area: "Way to yes", prompt: "Which date matters to them, and why?", weight: 2, due: 3, key: false, help: "An opening, a season, the end of a lease." },
	{ id: "rivals", area: "Rivals", prompt: "Who else is in the running?", weight: 1, due: 3, key: false, help: "Names, and what they prefer about them." },
] as const;

export const ANSWER_NOTES: Record<string, readonly string[]> = {
	assumed: ["Probably, from what the head baker hinted", "We think so, nobody said it", "As with their other site, most likely"],
	heard: ["Said so in the call", "They told us in the survey", "Confirmed by purchasing on the phone"],
	shown: ["We have it in writing", "Seen in their own calculation", "Met in person at the trial bake"],
	against: ["They prefer to wait a year", "The board is split on this", "Finance would rather repair"],
	unknown: ["Asked, no answer yet"],
};

export const COMPETITORS = ["Kelloran Thermal", "Vostrel Ovens", "Baxmoor & Daughters", "Norrlund Backtek"] as const;
export const LOSS_REASONS = ["Price", "Chose another maker", "No decision", "Budget moved to next year", "Bought used"] as const;
export const SOURCES = ["Trade fair", "Web enquiry", "Referral", "Existing customer", "Partner", "Cold call"] as const;
export const PUSH_REASONS = ["the board meets later", "trial not booked yet", "budget year starts in January", "waiting for the landlord"] as const;
