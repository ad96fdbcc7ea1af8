import type { WeeklyPlan } from "@/formats/weekly/plan";

export type SetPlan = (change: Partial<WeeklyPlan>) => void;
