"use client";
import { type ComponentType, createContext, type ReactNode, use } from "react";

/** A place on a screen for a part of a capability that the screen’s own doesn’t know. */
export interface Slot<Props extends object> {
	(props: Props): ReactNode;
	/** Says what is shown in the place, for all that is inside. */
	readonly Fill: (props: { by: ComponentType<Props>; children: ReactNode }) => ReactNode;
}

/**
 * Makes a place by its name. It throws where it is drawn and nothing fills it, so that a page that forgets one fails at once.
 *
 * @example const RoundsSlot = slot<{ id: string }>("a deal’s rounds");
 * <RoundsSlot.Fill by={DealRounds}><RoundsSlot id="d1" /></RoundsSlot.Fill>
 */
export function slot<Props extends object>(name: string): Slot<Props> {
	const Filled = createContext<ComponentType<Props> | null>(null);
	const Place = (props: Props) => {
		const Part = use(Filled);
		if (!Part) throw new Error(`Nothing fills the place for ${name}.`);
		return <Part {...props} />;
	};
	return Object.assign(Place, { Fill: ({ by, children }: { by: ComponentType<Props>; children: ReactNode }) => <Filled value={by}>{children}</Filled> });
}
