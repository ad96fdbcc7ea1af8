"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";

/** The views of what the past says. */
export function PatternsTabs({ current, tabs }: { current: string; tabs: readonly { readonly key: string; readonly label: string }[] }) {
	const address = useAddress();
	return (
		<Tabs
			label="Views of Patterns"
			current={current}
			tabs={tabs.map(({ key, label }) => ({ key, label, href: address("/patterns", key === "outlook" ? {} : { show: key }) }))}
		/>
	);
}
