import { zipSync } from "fflate";
import type { RawFiles } from "@/formats/bundle/model";

/** A zip of files, as somebody packs one. */
export const zipFiles = (files: RawFiles): Uint8Array => zipSync(Object.fromEntries([...files].map(([name, bytes]) => [name, [bytes, { level: 6 }]])));
