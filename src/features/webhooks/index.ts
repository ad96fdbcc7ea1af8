import { capability } from "@/platform/capability";
import { webhookApi } from "./server/apiRoutes";
import { callHooks } from "./server/callHooks";
import { callAgain, makeHook, readHooks, removeHook, switchHook } from "./server/hooks";

/** Other programs that are told what happens: addresses that are called, signed. */
export const hooks = capability({
	key: "webhooks",
	commands: [makeHook, switchHook, removeHook, callAgain],
	queries: [readHooks],
	api: webhookApi,
	often: [{ name: "call-webhooks", afterWrites: true, run: callHooks }],
});
