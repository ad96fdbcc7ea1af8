"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";

const VIEWS = [
	{ key: "list", label: "Last contact", path: "/accounts" },
	{ key: "turns", label: "Whose turn", path: "/accounts/turns" },
	{ key: "care", label: "Care", path: "/accounts/care" },
	{ key: "activity", label: "Activities", path: "/accounts/activities" },
	{ key: "territories", label: "Territories", path: "/accounts/territories" },
] as const;

/** Accounts by last contact, whose turn it is, who needs care without a deal, and what was done. */
export function AccountTabs({ current }: { current: (typeof VIEWS)[number]["key"] }) {
	const address = useAddress();
	return <Tabs label="Views of accounts" current={current} tabs={VIEWS.map(({ key, label, path }) => ({ key, label, href: address(path) }))} />;
}
