import { wayToBegin } from "@/features/begin/server/firstStart";
import { BeginForm } from "@/features/begin/ui/BeginForm";
import { currentContext } from "@/platform/http/session";
import { beginAction } from "../actions/begin";

export const metadata = { title: "Set up" };

export default async function BeginPage() {
	const way = await wayToBegin(await currentContext());
	return <BeginForm way={way} action={beginAction} zones={[...Intl.supportedValuesOf("timeZone"), "UTC"]} currencies={Intl.supportedValuesOf("currency")} />;
}
