"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";
import { CHANGES_VIEWS, type ChangesKey } from "./views";

/** Ways of looking at the same two days. */
export function ChangesTabs({ current }: { current: ChangesKey }) {
	const address = useAddress();
	const tabs = CHANGES_VIEWS.map(({ key, label }) => ({ key, label, href: address("/changes", { show: key === "bridge" ? null : key }) }));
	return <Tabs label="Views of Changes" current={current} tabs={tabs} />;
}
