"use client";
import { type ComponentType, useMemo } from "react";
import type { Packed } from "./packed";

/** A screen that takes what it shows packed as one text. */
export function unpacking<P extends object>(Screen: ComponentType<P>): ComponentType<{ readonly packed: Packed<P> }> {
	return function Unpacked({ packed }) {
		const props = useMemo(() => JSON.parse(packed) as P, [packed]);
		return <Screen {...props} />;
	};
}
