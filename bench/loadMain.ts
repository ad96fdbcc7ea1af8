import { benchLoad } from "./load";
import { machine, report } from "./report";

// npm run bench -- load: what happens while many people work at once, on the demo company and on one of about 10 000 open deals.
const { DATABASE_URL: large = "", BENCH_DEMO_URL: demo = "" } = process.env;
const say = (words: string) => process.stderr.write(`  ${words} …\n`);

say("the demo company");
const small = await benchLoad(
	demo,
	[
		{ rate: 25 },
		{ rate: 50 },
		{ rate: 100, aim: 150 },
		{ rate: 150 },
		{ rate: 40, pages: true },
		{ rate: 80, pages: true },
		{ rate: 120, pages: true, aim: 150 },
	],
	say,
);
say("a company of about 10 000 open deals");
const big = await benchLoad(
	large,
	[{ rate: 10 }, { rate: 10, imports: 10 }, { rate: 25, aim: 150 }, { rate: 25, imports: 10 }, { rate: 50, aim: 300 }, { rate: 100 }],
	say,
);
report(
	"load",
	`${machine()}

**The demo company, 900 deals**

${small}

**39 000 deals, about 10 000 of them open**

${big}
`,
);
process.exit(0);
