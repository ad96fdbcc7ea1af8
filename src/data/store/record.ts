import type { Value } from "../../formats/bundle/model";

/** A row as it is written to the database: values by the names of its columns. */
export type StoredRecord = Record<string, Value>;
