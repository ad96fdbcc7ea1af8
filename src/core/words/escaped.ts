/**
 * Text as HTML writes it, in its text and in attributes with double quotes.
 *
 * @example escaped('<b> & "c"') // "&lt;b&gt; &amp; &quot;c&quot;"
 */
export const escaped = (text: string): string => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");
