-- What is kept and sent names its days, no quarter's number: with another first month of the fiscal year the number means other
-- days. What is stored is read by the fiscal year as it is now.
DO $$
DECLARE
	"first" integer := coalesce((SELECT "fiscal_start_month" FROM "organisation" LIMIT 1), 1);
	"quarter" text;
	"begins" date;
	"span" text;
BEGIN
	FOR "quarter" IN
		SELECT DISTINCT "one"."keys"[1] FROM (
			SELECT regexp_matches("due", '\m(\d{4}-Q[1-4])\M', 'g') AS "keys" FROM "rounds"
			UNION ALL SELECT regexp_matches("due", '\m(\d{4}-Q[1-4])\M', 'g') FROM "tries"
			UNION ALL SELECT regexp_matches("query", '\mdue=(\d{4}-Q[1-4])\M', 'g') FROM "views"
			UNION ALL SELECT regexp_matches("path", '\mdue=(\d{4}-Q[1-4])\M', 'g') FROM "news"
		) AS "one"
	LOOP
		"begins" := make_date(left("quarter", 4)::integer - CASE WHEN "first" = 1 THEN 0 ELSE 1 END, 1, 1)
			+ make_interval(months => "first" - 1 + (right("quarter", 1)::integer - 1) * 3);
		"span" := to_char("begins", 'YYYY-MM-DD') || '..' || to_char("begins" + interval '3 months' - interval '1 day', 'YYYY-MM-DD');
		UPDATE "rounds" SET "due" = "span" WHERE "due" = "quarter";
		UPDATE "tries" SET "due" = "span" WHERE "due" = "quarter";
		UPDATE "views" SET "query" = replace("query", 'due=' || "quarter", 'due=' || "span") WHERE "query" LIKE '%due=' || "quarter" || '%';
		UPDATE "news" SET "path" = replace("path", 'due=' || "quarter", 'due=' || "span") WHERE "path" LIKE '%due=' || "quarter" || '%';
	END LOOP;
END $$;
