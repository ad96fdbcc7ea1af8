import type { AttachmentView } from "@/features/attachments";
import type { AccountChanged } from "./accountHistory";
import type { PageEntry } from "./pageLog";
import type { AccountStory } from "./readAccount";

/** Somebody of theirs on an account’s page. */
export interface PagePerson {
	readonly id: string;
	readonly name: string;
	readonly title: string | null;
	readonly role: string | null;
	readonly email: string | null;
	readonly reportsToId: string | null;
	readonly versionId: number;
	/** how far below whom they report to */
	readonly depth: number;
	readonly reportsTo: string | null;
	/** who of ours knows them best; null: nobody */
	readonly known: { readonly by: string; readonly tie: number; readonly word: string; readonly others: number } | null;
	readonly last: string | null;
	/** how many of our messages they answer, by the first of ours of whom it can be said */
	readonly answers: { readonly k: number; readonly n: number } | null;
}

export interface PageDeal {
	readonly id: string;
	readonly name: string;
	readonly status: string;
	readonly level: string;
	readonly stage: string;
	readonly stageAge: number;
	readonly close: string | null;
	readonly closed: string | null;
	readonly amount: number;
	readonly owner: string;
	/** why it was lost, and to whom */
	readonly why: string | null;
	readonly flags: readonly string[];
}

export interface AccountPage {
	readonly id: string;
	readonly version: number;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	readonly owner: string;
	/** the day of the first order */
	readonly customerSince: string | null;
	readonly lastContact: string | null;
	readonly waiting: { readonly side: "they" | "we"; readonly since: string; readonly workingDays: number } | null;
	readonly bought: AccountStory["line"]["bought"];
	readonly atRisk: boolean;
	/** nobody of ours who works here knows anybody who signs; null: it isn't known who does */
	readonly signatoryKnown: boolean | null;
	readonly years: readonly {
		readonly year: string;
		readonly amount: number;
		readonly products: AccountStory["years"][number]["products"];
		readonly orders: readonly { readonly day: string; readonly product: string; readonly amount: number }[];
	}[];
	readonly never: AccountStory["never"];
	readonly people: readonly PagePerson[];
	/** the best ways in, at most five */
	readonly ways: readonly { readonly contact: string; readonly person: string; readonly word: string }[];
	readonly deals: readonly PageDeal[];
	readonly log: readonly PageEntry[];
	readonly more: boolean;
	readonly shown: number;
	readonly choices: {
		readonly kinds: readonly string[];
		readonly people: readonly { readonly id: string; readonly name: string }[];
		readonly deals: readonly { readonly id: string; readonly name: string }[];
	};
	/** what was agreed and isn't done: open tasks of its deals */
	readonly open: readonly {
		readonly id: string;
		readonly title: string;
		readonly due: string | null;
		readonly late: boolean;
		readonly who: string;
		/** null: it is about the account beside its deals */
		readonly dealId: string | null;
	}[];
	readonly files: readonly AttachmentView[];
	/** what was changed of the account itself, the newest first */
	readonly history: readonly AccountChanged[];
	readonly notes: readonly { readonly id: string; readonly body: string; readonly by: string; readonly on: string }[];
	/** the next thing planned, and the last conversation before it */
	readonly next: PageEntry | null;
	readonly before: PageEntry | null;
	readonly currency: string;
	readonly seen: string;
	readonly past: boolean;
	readonly mayWrite: boolean;
	/** what may be chosen when it is edited; null where it can’t be */
	readonly edit: {
		readonly ownerId: string | null;
		/** null: it isn’t theirs to give */
		readonly owners: readonly { readonly id: string; readonly name: string }[] | null;
	} | null;
	readonly mayMerge: boolean;
	readonly mayGive: boolean;
}
