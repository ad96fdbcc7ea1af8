"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";
import { PATTERN_SCREENS, type PatternScreen } from "./screens";

/** The views of what the past says. */
export function PatternsTabs({ current }: { current: PatternScreen }) {
	const address = useAddress();
	const tabs = PATTERN_SCREENS.map(({ key, words }) => ({ key, words, href: address("/patterns", key === "outlook" ? {} : { show: key }) }));
	return <Tabs label="What the past says" current={current} tabs={tabs} />;
}
