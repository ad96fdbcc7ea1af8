import { BESIDE_SPECS } from "./besideSpecs";
import { DEAL_SPECS } from "./dealSpecs";
import type { FileSpec } from "./field";
import { ownSpecs } from "./ownSpecs";

export { BUNDLE_FILES, type BundleFile, type FieldSpec, type FieldType, type FileSpec, SETTINGS_FILE } from "./field";

/**
 * Every file of the open bundle: reading, checking, writing and the documentation all follow from this list.
 * A file only names files above it or itself.
 */
export const SPECS: readonly FileSpec[] = [...DEAL_SPECS, ...BESIDE_SPECS, ...ownSpecs()];

/** The field that names a row of a file, for references to it; null where rows have no name. */
export function nameField(spec: FileSpec): string | null {
	return spec.key.length === 1 ? (spec.key[0] ?? null) : null;
}
