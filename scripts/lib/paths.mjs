import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = resolve(dirname(fileURLToPath(import.meta.url)), "../..");
export const dataFolder = () => resolve(root, process.env.PORCH_LAMP_DATA || "var");
export const inRoot = (...parts) => join(root, ...parts);
