import { benchLoad } from "./load";
import { machine, report } from "./report";

// npm run bench -- load: what happens while many people work at once, on the demo company and on one of about 10 000 open deals.
const { DATABASE_URL: large = "", BENCH_DEMO_URL: demo = "" } = process.env;
const say = (words: string) => process.stderr.write(`  ${words} …\n`);

say("the demo company");
const small = await benchLoad(demo, [25, 50, 100, 150, 200], 150, say);
say("a company of about 10 000 open deals");
const big = await benchLoad(large, [25, 50, 100, 150], 250, say);
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
