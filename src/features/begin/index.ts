import { capability } from "@/platform/capability";
import { bringDemo, removeDemo } from "./server/demo";

/** The first steps of a company: its own beginning, and the demo company to look at. */
export const beginning = capability({ key: "begin", commands: [bringDemo, removeDemo] });
