import type { Value } from "../../formats/bundle/model";

export type Record_ = Record<string, Value>;
