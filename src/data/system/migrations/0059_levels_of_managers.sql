-- How many levels above the sender something asks: one where it says only that it asks the manager, none where it does not ask any.
CREATE FUNCTION slate.levels_of(step jsonb) RETURNS integer LANGUAGE sql IMMUTABLE AS $$
  SELECT CASE WHEN step->'manager' = 'true'::jsonb THEN 1 WHEN jsonb_typeof(step->'manager') = 'number' THEN (step->>'manager')::int ELSE 0 END
$$;
--> statement-breakpoint
-- Whoever is so many levels above somebody; where there are fewer, whoever is highest. Nobody, where they have no manager; and nobody is above themselves.
CREATE FUNCTION slate.above(somebody uuid, levels integer) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH RECURSIVE up (id, level, seen) AS (
    SELECT p.manager_id, 1, ARRAY[p.id] FROM person p WHERE p.id = somebody AND p.manager_id IS NOT NULL AND levels > 0
    UNION ALL SELECT p.manager_id, up.level + 1, up.seen || p.id FROM up JOIN person p ON p.id = up.id
      WHERE up.level < levels AND p.manager_id IS NOT NULL AND NOT p.manager_id = ANY (up.seen || p.id))
  SELECT id FROM up ORDER BY level DESC LIMIT 1
$$;
--> statement-breakpoint
-- As before, with whoever is some levels above the sender.
CREATE OR REPLACE FUNCTION slate.asks_by_itself(step jsonb, who uuid, sender uuid, names jsonb) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT (step->'people') ? who::text
    OR coalesce((names->(step->>'id')) ? who::text, false)
    OR coalesce(who = slate.above(sender, slate.levels_of(step)), false)
    OR EXISTS (SELECT 1 FROM jsonb_array_elements_text(coalesce(step->'groups', '[]'::jsonb)) AS named WHERE named::uuid = ANY (slate.groups_of(who)))
$$;
--> statement-breakpoint
-- As before; of rows that count together, the highest level counts.
CREATE OR REPLACE FUNCTION slate.steps_ruled(design jsonb, rules jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT CASE WHEN NOT coalesce(design ? 'rules', false) THEN coalesce(design->'steps', '[]'::jsonb) ELSE (
    SELECT coalesce(jsonb_agg(CASE WHEN said.tables = 0 THEN step
        ELSE (step - ARRAY['people', 'groups', 'manager', 'named', 'nobody']) || CASE WHEN said.silent THEN '{"people": []}'::jsonb ELSE
          jsonb_build_object('people', said.people, 'groups', said.groups)
          || CASE WHEN said.levels > 0 THEN jsonb_build_object('manager', said.levels) ELSE '{}'::jsonb END || CASE WHEN said.named THEN '{"named": ""}'::jsonb ELSE '{}'::jsonb END
          || CASE WHEN said.nobody THEN '{"nobody": true}'::jsonb ELSE '{}'::jsonb END END END ORDER BY place), '[]'::jsonb)
    FROM jsonb_array_elements(coalesce(design->'steps', '[]'::jsonb)) WITH ORDINALITY AS listed (step, place) CROSS JOIN LATERAL (
      SELECT count(DISTINCT t->>'id') AS tables, bool_or(g IS NULL) AS silent, max(slate.levels_of(g)) AS levels, bool_or(g ? 'named') AS named, bool_and(g->'nobody' = 'true'::jsonb) AS nobody,
        coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE is_person), '[]'::jsonb) AS people, coalesce(jsonb_agg(DISTINCT one) FILTER (WHERE NOT is_person), '[]'::jsonb) AS groups
      FROM jsonb_array_elements(design->'rules') AS t LEFT JOIN LATERAL (
        SELECT slate.gives_step(c.rule_row, step->>'id') AS g FROM slate.rows_ruled(design, rules) AS c WHERE c.of_table->>'id' = t->>'id') AS given ON true
      LEFT JOIN LATERAL (SELECT one, true AS is_person FROM jsonb_array_elements_text(g->'people') AS one
        UNION ALL SELECT one, false FROM jsonb_array_elements_text(coalesce(g->'groups', '[]'::jsonb)) AS one) AS asked ON true
      WHERE t->'asks' ? (step->>'id')) AS said) END
$$;
