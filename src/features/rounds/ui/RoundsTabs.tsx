"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";
import { ROUND_SCREENS, type RoundsScreenKey } from "./screens";

/** The ways of looking at rounds. */
export function RoundsTabs({ current }: { current: RoundsScreenKey }) {
	const address = useAddress();
	const tabs = ROUND_SCREENS.map(({ key, label }) => ({ key, label, href: address("/rounds", key === "list" ? {} : { show: key }) }));
	return <Tabs label="Views of Rounds" current={current} tabs={tabs} />;
}
