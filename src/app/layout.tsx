import "bootstrap/dist/css/bootstrap.min.css";
import "@fontsource-variable/fraunces";
import "@fontsource-variable/source-sans-3";
import "@/ui/theme.css";
import "@/ui/shell.css";
import type { Metadata } from "next";
import { cookies } from "next/headers";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { ActionsProvider } from "@/ui/actions";
import { Notices } from "@/ui/parts/Notices";
import { assignAction, changeTaskAction, createKeyAction, holdDayAction, revokeKeyAction, setThemeAction, signOutAction, takeBackAction } from "./actions";

export const metadata: Metadata = {
	title: { default: "Porch Lamp", template: "%s · Porch Lamp" },
	description: "Which open deals need a light left on, and why.",
};
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: ReactNode }) {
	const theme = (await cookies()).get("porch_lamp_theme")?.value === "dark" ? "dark" : "light";
	return (
		<html lang="en" data-bs-theme={theme}>
			<body>
				<NuqsAdapter>
					<ActionsProvider
						actions={{
							assign: assignAction,
							takeBack: takeBackAction,
							changeTask: changeTaskAction,
							createKey: createKeyAction,
							revokeKey: revokeKeyAction,
							holdDay: holdDayAction,
							setTheme: setThemeAction,
							signOut: signOutAction,
						}}
					>
						<Notices>{children}</Notices>
					</ActionsProvider>
				</NuqsAdapter>
			</body>
		</html>
	);
}
