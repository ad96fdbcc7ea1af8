import type { FiscalWeeks } from "@/core/time/fiscal";
import type { AttentionSettings } from "../../core/attention/settings";
import type { FlagSettings } from "../../core/flags/settings";
import type { ReasonReturns } from "../../core/patterns/comeBack";
import type { BundleFile } from "./spec";

/** One thing wrong in a bundle, in words a person can act on. `line` counts from 1, the header being line 1. */
export interface Problem {
	readonly file: string;
	readonly line: number | null;
	readonly column: string | null;
	readonly value: string | null;
	readonly reason: string;
	/** the row whose own problem is the cause of this one, as `people.csv 12` */
	readonly restsOn?: string;
}

/** A parsed field: days and instants as ISO text, amounts in minor units, decimals as exact text, lists as lists. */
export type Value = string | number | boolean | readonly string[] | null;

export interface Row {
	readonly line: number;
	readonly fields: Readonly<Record<string, Value>>;
	/** columns the bundle's format doesn't know, as they were written */
	readonly extras: Readonly<Record<string, string>>;
}

export interface Settings {
	timeZone?: string | undefined;
	baseCurrency?: string | undefined;
	fiscalYearStartMonth?: number | undefined;
	/** null: by months */
	fiscalWeeks?: FiscalWeeks | null | undefined;
	fiscalBefore?: readonly { readonly until: string; readonly fiscalYearStartMonth: number; readonly fiscalWeeks: FiscalWeeks | null }[] | undefined;
	weekend?: number[] | undefined;
	today?: string | null | undefined;
	activityKinds?: Record<string, { stagePosition?: number }> | undefined;
	flags?: FlagSettings | undefined;
	attention?: AttentionSettings | undefined;
	outcomeReasons?: string[] | undefined;
	contactBands?: number[] | undefined;
	commitGoal?: number | undefined;
	riskShare?: number | undefined;
	careDays?: { readonly customer: number; readonly prospect: number } | undefined;
	reasonReturns?: ReasonReturns | undefined;
	attentionWas?: { readonly until: string; readonly set: AttentionSettings }[] | undefined;
}

export interface Bundle {
	readonly files: ReadonlyMap<BundleFile, readonly Row[]>;
	readonly settings: Settings;
	/** rows that were left out for a fault of their own: their lines by their names, by file */
	readonly damaged: ReadonlyMap<BundleFile, ReadonlyMap<string, number>>;
	/** the unknown columns' names, by file */
	readonly unknownColumns: Readonly<Record<string, string[]>>;
}

/** The files of a folder or a zip by name, as bytes. */
export type RawFiles = ReadonlyMap<string, Uint8Array>;
