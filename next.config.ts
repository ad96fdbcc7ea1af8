import type { NextConfig } from "next";

const config: NextConfig = {
	reactStrictMode: true,
	poweredByHeader: false,
	// The server packs what goes over a wire itself.
	compress: false,
	typescript: { ignoreBuildErrors: true },
	serverExternalPackages: ["@node-rs/argon2", "exceljs", "pg", "pg-boss", "pino", "piscina", "yauzl"],
	experimental: { optimizePackageImports: ["react-bootstrap", "recharts"] },
};

export default config;
