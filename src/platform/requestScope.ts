import { AsyncLocalStorage } from "node:async_hooks";
import { processSingleton } from "@/data/processSingleton";

/** What is known of the request that is being answered. */
export interface RequestScope {
	/** names it in logs and to its sender */
	readonly id: string;
	/** what kind of address was asked for, such as `/deals/{id}`: never what stands in it */
	route: string;
}

const scopes = () => processSingleton("request scopes", () => new AsyncLocalStorage<RequestScope>());

export const withinRequest = <R>(scope: RequestScope, work: () => R): R => scopes().run(scope, work);
export const requestScope = (): RequestScope | undefined => scopes().getStore();
