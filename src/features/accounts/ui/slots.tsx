import { slot } from "@/ui/parts/slot";

/** Accounts for which something is to be done beside their deals. */
export interface GiveAt {
	readonly accounts: readonly { readonly id: string; readonly name: string }[];
	readonly onClose: (done: boolean) => void;
}

/** The dialog in which a task or a kit is given for accounts. */
export const GiveAtSlot = slot<GiveAt>("giving tasks for accounts");
