import { byText } from "@/core/deal/order";
import type { DealRow } from "./row";

/** The order of the list: attention, then amount, both descending, then id. */
export const byScore = (a: DealRow, b: DealRow): number => b.score - a.score || b.amount - a.amount || byText(a.id, b.id);
