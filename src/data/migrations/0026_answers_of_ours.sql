-- Answers that one of ours wrote by mail were stored as if the customer had written them. Up to here only the person a mail
-- was for could answer it, so every logged answer without a contact is theirs: internal.
WITH "wrong" AS (
	UPDATE "activities" AS "a" SET "direction" = 'none'
	FROM "answers_in" AS "i"
	WHERE "i"."fate" = 'logged' AND "a"."direction" = 'in' AND "a"."id" LIKE 'activity-%' AND "a"."contact_ids" = '{}'
		AND "a"."at" = "i"."at" AND "a"."recorded_at" = "i"."at" AND "a"."deal_id" IS NOT NULL
	RETURNING "a"."id", "a"."deal_id"
), "told" AS (
	INSERT INTO "audit" ("action", "subject", "detail")
	SELECT 'answer corrected', "deal_id", jsonb_build_object(
		'activity', "id",
		'changed', jsonb_build_array(jsonb_build_object('field', 'direction', 'before', 'in', 'after', 'none')),
		'reason', 'one of ours wrote it, not the customer'
	) FROM "wrong"
), "next" AS (
	UPDATE "revision" SET "number" = "number" + 1 WHERE EXISTS (SELECT 1 FROM "wrong") RETURNING "number"
)
INSERT INTO "tail" ("revision", "deal_id") SELECT "next"."number", "w"."deal_id" FROM "next", (SELECT DISTINCT "deal_id" FROM "wrong") AS "w";
