import { panel } from "@/platform/panel";
import { readProvider } from "../server/provider/settings";
import { ProviderPanel } from "../ui/provider/ProviderPanel";

export const providerPanel = panel({
	key: "provider",
	label: "Company sign-in",
	group: "people",
	about: "Signing in by the company’s own provider (OpenID Connect): who is let in, as what.",
	right: "manageSignIn",
	show: async (context) => <ProviderPanel view={await readProvider(context)} teams={[...context.organisation.teams.keys()]} />,
});
