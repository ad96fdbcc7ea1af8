import { cleanup, configure } from "@testing-library/react";
import { createElement } from "react";
import { afterEach, vi } from "vitest";

// A busy machine needs longer than the second that is usual.
configure({ asyncUtilTimeout: 10_000 });

// What the framework gives a screen in a browser: an address, and ways to another one.
vi.mock("next/navigation", () => ({
	useRouter: () => ({ refresh: () => undefined, push: () => undefined, replace: () => undefined, prefetch: () => undefined }),
	usePathname: () => "/",
	useSearchParams: () => new URLSearchParams(),
}));
vi.mock("next/link", () => ({
	default: ({ href, prefetch: _, scroll: __, ...more }: Record<string, unknown>) => createElement("a", { href: String(href), ...more }),
}));

afterEach(cleanup);
