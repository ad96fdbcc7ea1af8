"use client";
import { useAddress } from "@/ui/frame/address";
import { Tabs } from "@/ui/parts/Tabs";
import { TASK_SCREENS, type TaskScreen } from "./screens";

/** The ways of looking at tasks. */
export function TasksTabs({ current }: { current: TaskScreen }) {
	const address = useAddress();
	const tabs = TASK_SCREENS.map(({ key, label }) => ({ key, label, href: address("/tasks", key === "list" ? {} : { show: key }) }));
	return <Tabs label="Views of Tasks" current={current} tabs={tabs} />;
}
