/**
 * What no text of a screen, message, mail or file says, each with what to write. Words of our own that stay
 * (lit, call, walk, …) are in `docs/words.md`.
 */
export const FORBIDDEN: readonly (readonly [pattern: RegExp, instead: string])[] = [
	[/\btake[sn]?( it| them| this| that)? away\b|\btaken away\b|\btaking it away\b/i, "export, delete or remove"],
	[/\b(take|takes|taken|taking)( it| them| this| that)? (in|out)\b(?! of)/i, "import; undo import; remove"],
	[/\btake(n)? back\b|\btake it back\b/i, "undo or delete"],
	[/\banew\b/i, "again; reload; replace"],
	[/\bwhoever\b|\bwhosoever\b|\bthereof\b|\bwherein\b/i, "the person who; anyone who"],
	[/\bbesides\b/i, "also; in addition to"],
	[/\bmeanwhile\b/i, "in the meantime; since then"],
	[/\b(is|are|was|were) called (so|“)/i, "named"],
	[/\bas like as not\b/i, "most likely about"],
	[/\bnothing is called so\b/i, "no names match"],
	[/\b(went|goes|go|gone) out\b(?! by mail)/i, "clears, cleared"],
	[/\bno more\b(?! than)/i, "no longer"],
	[/\bthat didn’t work\b/i, "say what wasn’t saved"],
	[/\bsomething (is missing|was said)\b/i, "name what is missing"],
	[/\b(works|work|working|worked) here\b/i, "with the company"],
	[/\blook again\b|\blook, and\b/i, "reload; check"],
	[/\bis held,? and\b|\bit is held\b/i, "is fixed"],
	[/\bkept when you leave\b/i, "saved when you leave the field"],
	[/\b(begin|began|begun) with\b/i, "start with"],
	[/\bout of your reach\b|\bthat you reach\b/i, "that you can see"],
	[/\bask no more\b|\bhear of it no\b/i, "retire; turn off"],
	[/\bdoesn’t answer\b/i, "doesn’t respond"],
	[/\bstill to come\b/i, "in the future"],
	[/\bforetell|\bforetold\b/i, "signals; expected"],
	[/\bsomebody else\b/i, "someone else"],
	[/\bit runs\b|\bit serves\b/i, "it is running"],
	[/!(\s|$)/, "no exclamation marks"],
	[/\p{L}'(s|t|re|ve|ll|d|m)\b/u, "curly apostrophe ’"],
	[/"\p{L}[^"]*"/u, "curly quotes “ ”"],
	[/\.\.\./, "…"],
];

/** Of two verbs for one action, the one that buttons, links and menus don’t have. */
export const SECOND_VERBS: readonly (readonly [pattern: RegExp, verb: string])[] = [
	[/^(Erase|Discard round|Get rid|Trash|Drop (view|board|round|kit|target|try))\b/, "Delete"],
	[/^(Keep|Store|Set it|Save it|Keep it)\b(?! all$)/, "Save"],
	[/^(Make|Build|New)\b(?! (private|task)$)/, "Create or Add"],
	[/^(Download|Take|Get|Fetch)\b(?! task| …$)/, "Export"],
	[/^(Bring|Load)\b/, "Import"],
	[/^(Look|Find out|Seek)\b/, "Search"],
	[/^(Leave|Leave it|Never mind|Abort|Dismiss)\b/, "Cancel"],
	[/^(Begin|Commence)\b/, "Start"],
	[/^(Alter|Modify)\b/, "Change"],
	[/^(Refresh|Load again)\b/, "Reload"],
	[/^(Revert|Roll back)\b/, "Undo"],
];
