import "bootstrap/dist/css/bootstrap.min.css";
import "@fontsource-variable/fraunces";
import "@fontsource-variable/source-sans-3";
import "@/ui/theme.css";
import "@/ui/shell.css";
import type { Metadata } from "next";
import { cookies } from "next/headers";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { Fetched } from "@/ui/Fetched";
import { Notices } from "@/ui/Notices";
import { RunProvider } from "@/ui/run";
import { runAction } from "./actions/run";
import { setThemeAction, signOutAction } from "./actions/session";

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
					<Fetched>
						<RunProvider server={{ run: runAction, setTheme: setThemeAction, signOut: signOutAction }}>
							<Notices>{children}</Notices>
						</RunProvider>
					</Fetched>
				</NuqsAdapter>
			</body>
		</html>
	);
}
