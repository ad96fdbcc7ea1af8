import type { ReactNode } from "react";
import type { Context } from "@/platform/context";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";
import { resolveViewpoint } from "@/platform/viewpoint";
import { FaultView } from "@/ui/frame/FaultView";
import { Frame } from "@/ui/frame/Frame";
import { frameView } from "./frame";

/** A screen, or in its place what is wrong with the address or the rights, in words and with a way on. */
export async function faultScreen(context: Context, make: () => Promise<ReactNode>): Promise<ReactNode> {
	try {
		return await make();
	} catch (thrown) {
		const error = databaseFault(thrown);
		if (!(error instanceof Fault)) throw thrown;
		return (
			<Frame view={await frameView(context, resolveViewpoint(context, {}))} title={error.title}>
				<FaultView title={error.title} detail={error.detail} />
			</Frame>
		);
	}
}
