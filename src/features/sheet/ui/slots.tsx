"use client";
import { slot } from "@/ui/parts/slot";

/** What rounds said of a deal, and its rest; nothing on a past day (`live` is false). */
export const DealRoundsSlot = slot<{ readonly id: string; readonly live: boolean }>("a deal’s rounds");

/** What became of past deals with a flag. */
export const FlagRecordSlot = slot<{ readonly code: string }>("the record of a flag");
