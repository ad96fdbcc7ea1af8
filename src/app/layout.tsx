import "bootstrap/dist/css/bootstrap.min.css";
import "@fontsource-variable/fraunces";
import "@fontsource-variable/source-sans-3";
import "@/ui/theme.css";
import "@/ui/shell.css";
import type { Metadata } from "next";
import { cookies, headers } from "next/headers";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { Fetched } from "@/ui/Fetched";
import { BUILD_HEADER } from "@/ui/frame/build";
import { keepEarlyInput } from "@/ui/frame/earlyInput";
import { FocusKeeper } from "@/ui/frame/FocusKeeper";
import { ReachBar } from "@/ui/frame/reach/ReachBar";
import { Notices } from "@/ui/Notices";
import { RunProvider } from "@/ui/run";
import { runAction } from "./actions/run";
import { signOutAction } from "./actions/session";

const FOLLOW_SYSTEM = `(() => {
	const dark = matchMedia("(prefers-color-scheme: dark)");
	const follow = () => { if (!document.cookie.includes("porch_lamp_theme=")) document.documentElement.dataset.bsTheme = dark.matches ? "dark" : "light"; };
	follow();
	dark.addEventListener("change", follow);
})()`;

export const metadata: Metadata = {
	title: { default: "Porch Lamp", template: "%s · Porch Lamp" },
	description: "Which open deals need a light left on, and why.",
};
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: ReactNode }) {
	const chosen = (await cookies()).get("porch_lamp_theme")?.value;
	const theme = chosen === "dark" || chosen === "light" ? chosen : null;
	const asked = await headers();
	const nonce = asked.get("x-nonce") ?? undefined;
	return (
		<html lang="en" data-bs-theme={theme ?? "light"} suppressHydrationWarning>
			<body>
				{/* Before anything is drawn, so that nothing flashes: nobody has chosen, so it is as the system is. */}
				{theme === null && (
					// biome-ignore lint/security/noDangerouslySetInnerHtml: our own words, with this answer's nonce
					<script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: FOLLOW_SYSTEM }} />
				)}
				{/* biome-ignore lint/security/noDangerouslySetInnerHtml: our own words, with this answer's nonce */}
				<script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: `(${keepEarlyInput})()` }} />
				<NuqsAdapter>
					<Fetched>
						<RunProvider server={{ run: runAction, signOut: signOutAction }}>
							<ReachBar build={asked.get(BUILD_HEADER)} />
							<Notices>{children}</Notices>
							<FocusKeeper />
						</RunProvider>
					</Fetched>
				</NuqsAdapter>
			</body>
		</html>
	);
}
