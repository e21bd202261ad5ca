-- Two who say at once who may do what with one form or table take turns, and the second is told instead of undoing what the first said: `seen` is what stood
-- there when they began. False when that is not what stands there now; what is said twice changes nothing the second time.
DROP FUNCTION slate.put_grants(uuid, uuid, jsonb);
--> statement-breakpoint
CREATE FUNCTION slate.put_grants(of_form uuid, of_table uuid, given jsonb, seen uuid[]) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE said text[]; stands text[];
BEGIN
  IF num_nonnulls(of_form, of_table) <> 1 OR NOT (slate.administers() OR (of_form IS NOT NULL AND (slate.may_form(of_form, 'design') OR slate.owns_form(of_form))) OR (of_table IS NOT NULL AND slate.may(of_table, 'design'))) THEN
    RAISE EXCEPTION 'not theirs to say' USING ERRCODE = 'TS010';
  END IF;
  PERFORM pg_advisory_xact_lock(hashtext('slate grants'), hashtext(coalesce(of_form, of_table)::text));
  SELECT coalesce(array_agg(concat_ws(' ', n.action, coalesce(n.role, n."groupId"::text, n."personId"::text, ''), coalesce(n."where", '')) ORDER BY 1), '{}') INTO said
    FROM (SELECT DISTINCT action, role, "groupId", "personId", "where" FROM jsonb_to_recordset(given) AS g (action text, role text, "groupId" uuid, "personId" uuid, "where" text)) AS n;
  SELECT coalesce(array_agg(concat_ws(' ', g.action, coalesce(g.role, g.group_id::text, g.person_id::text, ''), coalesce(g.where_rule, '')) ORDER BY 1), '{}') INTO stands
    FROM access_grant g WHERE g.form_id = of_form OR g.table_id = of_table;
  IF said @> stands AND stands @> said THEN RETURN true; END IF;
  IF EXISTS (SELECT 1 FROM access_grant g WHERE (g.form_id = of_form OR g.table_id = of_table) AND g.id <> ALL (seen))
    OR EXISTS (SELECT 1 FROM unnest(seen) AS one WHERE NOT EXISTS (SELECT 1 FROM access_grant g WHERE g.id = one AND (g.form_id = of_form OR g.table_id = of_table))) THEN
    RETURN false;
  END IF;
  DELETE FROM access_grant g WHERE (g.form_id = of_form OR g.table_id = of_table)
    AND NOT EXISTS (SELECT 1 FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text)
      WHERE n.action = g.action AND coalesce(n.role, n."groupId"::text, n."personId"::text, '') = coalesce(g.role, g.group_id::text, g.person_id::text, '') AND coalesce(n."where", '') = coalesce(g.where_rule, ''));
  INSERT INTO access_grant (form_id, table_id, action, role, group_id, person_id, where_rule, columns, by_id)
    SELECT of_form, of_table, n.action, n.role, n."groupId", n."personId", n."where", CASE WHEN n.columns IS NULL THEN NULL ELSE ARRAY(SELECT jsonb_array_elements_text(n.columns)) END, slate.asking()
    FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text, columns jsonb) ON CONFLICT DO NOTHING;
  RETURN true;
END $$;
