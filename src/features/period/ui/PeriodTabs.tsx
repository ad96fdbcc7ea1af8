"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";

const VIEWS = [
	{ key: "stand", label: "Where it stands", path: "/period" },
	{ key: "tries", label: "Try it out", path: "/period/tries" },
	{ key: "closed", label: "How it ended", path: "/period/closed" },
	{ key: "boards", label: "Boards", path: "/period/boards" },
] as const;

/** The period as it stands, what would be if, and boards of one's own. */
export function PeriodTabs({ current }: { current: (typeof VIEWS)[number]["key"] }) {
	const address = useAddress();
	return <Tabs label="Views of the period" current={current} tabs={VIEWS.map(({ key, label, path }) => ({ key, label, href: address(path) }))} />;
}
