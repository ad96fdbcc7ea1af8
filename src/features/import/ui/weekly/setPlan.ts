import type { WeeklyPlan } from "@/formats/weekly/read";

export type SetPlan = (change: Partial<WeeklyPlan>) => void;
