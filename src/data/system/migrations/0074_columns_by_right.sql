ALTER TABLE "slate"."access_grant" DROP CONSTRAINT "access_grant_action";--> statement-breakpoint
ALTER TABLE "slate"."designed_column" ADD COLUMN "restricted" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_columns" CHECK (("slate"."access_grant"."action" = 'see-columns') = ("slate"."access_grant"."columns" IS NOT NULL));--> statement-breakpoint
ALTER TABLE "slate"."access_grant" ADD CONSTRAINT "access_grant_action" CHECK (CASE WHEN "slate"."access_grant"."form_id" IS NULL THEN "slate"."access_grant"."action" IN ('see', 'see-columns', 'add', 'change', 'remove', 'pick', 'design') ELSE "slate"."access_grant"."action" IN ('fill', 'see-all', 'design') END);--> statement-breakpoint
-- Columns that are not for everybody who sees their table. The application role reads those tables through views, whose owner is a role of its own that nobody
-- signs in by: policies hold for it as for anybody, and each restricted column is empty for whoever may not see it (ADR 42). Who may: those who design the
-- table, and those of whom it is said.
CREATE SCHEMA shown;
--> statement-breakpoint
-- While the server holds checks against records, or takes them in hand to change them, it looks at all of a record, whoever asks; none of that is told.
CREATE FUNCTION slate.sees_column(of_table uuid, of_column text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF coalesce(current_setting('slate.checking', true), '') <> '' OR coalesce(current_setting('slate.in_hand', true), '') <> '' THEN RETURN true; END IF;
  RETURN slate.token_allows(of_table, NULL, 'see') AND EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table
    AND (g.action = 'design' OR (g.action = 'see-columns' AND of_column = ANY (g.columns))) AND slate.is_for(g, slate.asking()));
END $$;
--> statement-breakpoint
-- By the names they have in the database.
CREATE FUNCTION slate.hidden_keys(of_table uuid) RETURNS text[] LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN ARRAY(SELECT c.key FROM designed_column c WHERE c.table_id = of_table AND c.restricted AND NOT slate.sees_column(of_table, c.id));
END $$;
--> statement-breakpoint
-- A record as it was, without what is not for whoever asks.
CREATE FUNCTION slate.without_hidden(of_table uuid, whole jsonb) RETURNS jsonb LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF whole IS NULL OR NOT EXISTS (SELECT 1 FROM designed_column c WHERE c.table_id = of_table AND c.restricted) THEN RETURN whole; END IF;
  RETURN whole - slate.hidden_keys(of_table);
END $$;
--> statement-breakpoint
-- What the role is called that the views belong to, and the one that reads them.
CREATE FUNCTION slate.showing_role() RETURNS text LANGUAGE sql STABLE AS $$ SELECT r.rolname || '_shows' FROM pg_namespace n JOIN pg_roles r ON r.oid = n.nspowner WHERE n.nspname = 'shown' $$;
--> statement-breakpoint
CREATE FUNCTION slate.reading_roles() RETURNS SETOF text LANGUAGE sql STABLE AS $$
  SELECT r.rolname FROM pg_namespace n, aclexplode(n.nspacl) AS a JOIN pg_roles r ON r.oid = a.grantee
  WHERE n.nspname = 'shown' AND a.privilege_type = 'USAGE' AND r.rolname NOT IN (slate.showing_role(), (SELECT rolname FROM pg_roles WHERE oid = n.nspowner))
$$;
--> statement-breakpoint
-- Before a table changes: nothing shows what its columns hold.
CREATE FUNCTION slate.let_go_of_shown(of_table uuid) RETURNS void LANGUAGE plpgsql VOLATILE AS $$
DECLARE key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
BEGIN
  -- One that is about to be made has none.
  IF key IS NOT NULL THEN EXECUTE format('DROP VIEW IF EXISTS shown.%I', key); END IF;
END $$;
--> statement-breakpoint
-- Makes the view of a table with restricted columns, and leaves the application role the rest of the table itself. Of any other table there is no view.
CREATE FUNCTION slate.settle_shown(of_table uuid) RETURNS void LANGUAGE plpgsql VOLATILE AS $$
DECLARE
  key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
  base regclass := to_regclass(format('records.%I', key));
  cells text;
  free text;
  reader text;
BEGIN
  IF base IS NULL THEN RETURN; END IF;
  PERFORM slate.let_go_of_shown(of_table);
  IF NOT EXISTS (SELECT 1 FROM slate.designed_column c WHERE c.table_id = of_table AND c.restricted) THEN
    FOR reader IN SELECT slate.reading_roles() LOOP EXECUTE format('GRANT SELECT ON %s TO %I', base, reader); END LOOP;
    RETURN;
  END IF;
  SELECT string_agg(CASE WHEN c.restricted THEN format('CASE WHEN (SELECT slate.sees_column(%L, %L)) THEN t.%I END AS %I', of_table, c.id, a.attname, a.attname) ELSE format('t.%I', a.attname) END, ', ' ORDER BY a.attnum),
      string_agg(format('%I', a.attname), ', ') FILTER (WHERE c.restricted IS NOT TRUE)
    INTO cells, free
    FROM pg_attribute a LEFT JOIN slate.designed_column c ON c.table_id = of_table AND c.key = a.attname AND c.formula = '' WHERE a.attrelid = base AND a.attnum > 0 AND NOT a.attisdropped;
  -- What is worked out of a record is a function of it, which is told of no view.
  SELECT concat_ws(', ', cells, string_agg(CASE WHEN c.restricted THEN format('CASE WHEN (SELECT slate.sees_column(%L, %L)) THEN calculated.%I(t) END AS %I', of_table, c.id, c.key, c.key) ELSE format('calculated.%I(t) AS %I', c.key, c.key) END, ', ' ORDER BY c.position))
    INTO cells
    FROM slate.designed_column c JOIN pg_proc p ON p.proname = c.key AND p.pronamespace = 'calculated'::regnamespace AND p.proargtypes[0] = (SELECT reltype FROM pg_class WHERE oid = base)
    WHERE c.table_id = of_table AND c.formula <> '';
  EXECUTE format('CREATE VIEW shown.%I AS SELECT %s FROM %s AS t', key, cells, base);
  FOR reader IN SELECT slate.reading_roles() LOOP
    EXECUTE format('GRANT SELECT ON shown.%I TO %I', key, reader);
    EXECUTE format('REVOKE SELECT ON %s FROM %I', base, reader);
    EXECUTE format('GRANT SELECT (%s) ON %s TO %I', free, base, reader);
  END LOOP;
  EXECUTE format('ALTER VIEW shown.%I OWNER TO %I', key, slate.showing_role());
END $$;
--> statement-breakpoint
-- What the application role may read anew, where rights were given for all tables at once.
CREATE FUNCTION slate.settle_all_shown() RETURNS void LANGUAGE plpgsql VOLATILE AS $$
BEGIN
  PERFORM slate.settle_shown(t.id) FROM slate.designed_table t WHERE EXISTS (SELECT 1 FROM slate.designed_column c WHERE c.table_id = t.id AND c.restricted);
END $$;
--> statement-breakpoint
CREATE VIEW shown.history AS SELECT h.id, h.table_id, h.record_id, h.last_id, h.version, h.change, slate.without_hidden(h.table_id, h.before) AS before, slate.without_hidden(h.table_id, h.after) AS after, h.by_id, h.submission_id, h.token_id, h.at FROM slate.history h;
--> statement-breakpoint
-- Rules are held against whole records, by a role of which policies hold.
CREATE FUNCTION shown.those_within(of_key text, rule text, wanted text, ids uuid[]) RETURNS SETOF uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, pg_temp AS $$
BEGIN
  RETURN QUERY EXECUTE format('SELECT r.id FROM records.%I r WHERE r.id = ANY ($1) AND rights.%I(r, $2)', of_key, rule) USING ids, wanted;
END $$;
--> statement-breakpoint
DO $$
DECLARE shows text := slate.showing_role();
BEGIN
  EXECUTE format('GRANT USAGE ON SCHEMA slate, records, calculated, rights TO %I', shows);
  EXECUTE format('GRANT USAGE, CREATE ON SCHEMA shown TO %I', shows);
  EXECUTE format('GRANT SELECT ON slate.history TO %I', shows);
  EXECUTE format('GRANT SELECT ON ALL TABLES IN SCHEMA records TO %I', shows);
  EXECUTE format('ALTER DEFAULT PRIVILEGES IN SCHEMA records GRANT SELECT ON TABLES TO %I', shows);
  EXECUTE format('ALTER VIEW shown.history OWNER TO %I', shows);
  EXECUTE format('ALTER FUNCTION shown.those_within(text, text, text, uuid[]) OWNER TO %I', shows);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.those_within(of_table uuid, wanted text, ids uuid[]) RETURNS SETOF uuid LANGUAGE plpgsql STABLE AS $$
DECLARE
  rule text := 'within_' || replace(of_table::text, '-', '');
  key text := (SELECT t.key FROM slate.designed_table t WHERE t.id = of_table);
BEGIN
  IF slate.may_all(of_table, wanted) THEN
    RETURN QUERY EXECUTE format('SELECT id FROM records.%I WHERE id = ANY ($1)', key) USING ids;
  ELSIF slate.may(of_table, wanted) AND to_regproc('rights.' || rule) IS NOT NULL THEN
    RETURN QUERY SELECT shown.those_within(key, rule, wanted, ids);
  END IF;
END $$;
--> statement-breakpoint
-- As before, and: of what is restricted, what whoever asks sees. Whoever owns the tables reads them as they are.
CREATE OR REPLACE FUNCTION slate.stored_record(of_table uuid, of_record uuid) RETURNS jsonb LANGUAGE plpgsql STABLE AS $$
DECLARE
  known record;
  found jsonb;
  rows jsonb;
BEGIN
  FOR known IN
    SELECT t.id, t.key, t.parent_id, p.key AS outer_key, p.parent_id AS outer_parent,
      CASE WHEN EXISTS (SELECT 1 FROM slate.designed_column c WHERE c.table_id = t.id AND c.restricted) AND row_security_active(format('records.%I', t.key)::regclass) THEN 'shown' ELSE 'records' END AS place,
      (SELECT string_agg(quote_literal(c.id), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS ids,
      (SELECT string_agg(format('r.%I::text', c.key), ', ') FROM slate.designed_column c WHERE c.table_id = t.id AND c.formula = '') AS cells
    FROM slate.designed_table t LEFT JOIN slate.designed_table p ON p.id = t.parent_id
    WHERE t.id = of_table OR t.parent_id = of_table OR p.parent_id = of_table
    ORDER BY t.id <> of_table, t.parent_id <> of_table, t.id
  LOOP
    IF known.id = of_table THEN
      EXECUTE format('SELECT jsonb_build_object(''number'', number, ''version'', version, ''removed'', removed_at IS NOT NULL, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[]), ''rows'', ''{}''::jsonb) FROM %I.%I AS r WHERE id = $1',
        known.ids, known.cells, known.place, known.key) INTO found USING of_record;
      IF found IS NULL THEN RETURN NULL; END IF;
    ELSIF known.parent_id = of_table THEN
      EXECUTE format('SELECT jsonb_agg(jsonb_build_object(''id'', id, ''version'', version, ''position'', position, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[])) ORDER BY position, id) FROM %I.%I AS r WHERE parent_id = $1 AND removed_at IS NULL',
        known.ids, known.cells, known.place, known.key) INTO rows USING of_record;
      found := jsonb_set(found, ARRAY['rows', known.id::text], coalesce(rows, '[]'));
    ELSE
      EXECUTE format('SELECT jsonb_agg(jsonb_build_object(''id'', r.id, ''of'', r.parent_id, ''version'', r.version, ''position'', r.position, ''values'', jsonb_object(ARRAY[%s]::text[], ARRAY[%s]::text[])) ORDER BY p.position, p.id, r.position, r.id) FROM %I.%I AS r JOIN records.%I AS p ON p.id = r.parent_id WHERE p.parent_id = $1 AND p.removed_at IS NULL AND r.removed_at IS NULL',
        known.ids, known.cells, known.place, known.key, known.outer_key) INTO rows USING of_record;
      found := jsonb_set(found, ARRAY['rows', known.id::text], coalesce(rows, '[]'));
    END IF;
  END LOOP;
  RETURN found;
END $$;
--> statement-breakpoint
-- As before, and: nobody writes over what they do not see, but by a form.
CREATE OR REPLACE FUNCTION slate.hold_to_rights() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  moved boolean := OLD.removed_at IS DISTINCT FROM NEW.removed_at;
  stamps text[] := ARRAY['removed_at', 'updated_at', 'updated_by', 'version'];
  parent uuid;
  old_parent uuid;
  beside text[];
  hidden text[];
BEGIN
  IF NOT row_security_active(TG_RELID) THEN RETURN NEW; END IF;
  -- Of the record that a submission changes, its columns and all of its rows; of those it changes beside, the columns its release names.
  IF slate.current_submission() IS NOT NULL THEN
    IF NOT moved AND OLD.id = slate.record_in_hand(TG_ARGV[0]::uuid) THEN RETURN NEW; END IF;
    SELECT t.parent_id INTO parent FROM slate.designed_table t WHERE t.id = TG_ARGV[0]::uuid;
    old_parent := (to_jsonb(OLD)->>'parent_id')::uuid;
    IF parent IS NOT NULL AND to_jsonb(NEW)->'parent_id' = to_jsonb(OLD)->'parent_id'
      AND (old_parent = slate.record_in_hand(parent) OR old_parent = ANY (slate.rows_in_hand(parent))) THEN RETURN NEW; END IF;
    beside := slate.columns_beside(TG_ARGV[0]::uuid);
    IF beside IS NOT NULL AND to_jsonb(NEW) - beside - stamps = to_jsonb(OLD) - beside - stamps AND NOT moved AND slate.answers_name(OLD.id) THEN RETURN NEW; END IF;
  END IF;
  IF moved AND NOT slate.is_within(TG_ARGV[0]::uuid, 'remove', to_jsonb(OLD)) THEN
    RAISE insufficient_privilege USING MESSAGE = 'this record is not to be removed by whoever asks';
  END IF;
  -- Changed, it is still among those they may change.
  IF (NOT moved OR to_jsonb(NEW) - stamps <> to_jsonb(OLD) - stamps) AND NOT (slate.is_within(TG_ARGV[0]::uuid, 'change', to_jsonb(OLD)) AND slate.is_within(TG_ARGV[0]::uuid, 'change', to_jsonb(NEW))) THEN
    RAISE insufficient_privilege USING MESSAGE = 'this record is not to be changed so by whoever asks';
  END IF;
  hidden := slate.hidden_keys(TG_ARGV[0]::uuid);
  IF hidden <> '{}' AND EXISTS (SELECT 1 FROM unnest(hidden) AS key WHERE to_jsonb(NEW)->key IS DISTINCT FROM to_jsonb(OLD)->key) THEN
    RAISE insufficient_privilege USING MESSAGE = 'what is restricted is not to be changed by whoever asks';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- As before, and: which columns a right is about.
CREATE OR REPLACE FUNCTION slate.put_grants(of_form uuid, of_table uuid, given jsonb, seen uuid[]) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE said text[]; stands text[];
BEGIN
  IF num_nonnulls(of_form, of_table) <> 1 OR NOT (slate.administers() OR (of_form IS NOT NULL AND (slate.may_form(of_form, 'design') OR slate.owns_form(of_form))) OR (of_table IS NOT NULL AND slate.may(of_table, 'design'))) THEN
    RAISE EXCEPTION 'not theirs to say' USING ERRCODE = 'TS010';
  END IF;
  PERFORM pg_advisory_xact_lock(hashtext('slate grants'), hashtext(coalesce(of_form, of_table)::text));
  SELECT coalesce(array_agg(concat_ws(' ', n.action, coalesce(n.role, n."groupId"::text, n."personId"::text, ''), coalesce(n."where", ''), nullif(n.columns, 'null')::text) ORDER BY 1), '{}') INTO said
    FROM (SELECT DISTINCT action, role, "groupId", "personId", "where", columns FROM jsonb_to_recordset(given) AS g (action text, role text, "groupId" uuid, "personId" uuid, "where" text, columns jsonb)) AS n;
  SELECT coalesce(array_agg(concat_ws(' ', g.action, coalesce(g.role, g.group_id::text, g.person_id::text, ''), coalesce(g.where_rule, ''), to_jsonb(g.columns)::text) ORDER BY 1), '{}') INTO stands
    FROM access_grant g WHERE g.form_id = of_form OR g.table_id = of_table;
  IF said @> stands AND stands @> said THEN RETURN true; END IF;
  IF EXISTS (SELECT 1 FROM access_grant g WHERE (g.form_id = of_form OR g.table_id = of_table) AND g.id <> ALL (seen))
    OR EXISTS (SELECT 1 FROM unnest(seen) AS one WHERE NOT EXISTS (SELECT 1 FROM access_grant g WHERE g.id = one AND (g.form_id = of_form OR g.table_id = of_table))) THEN
    RETURN false;
  END IF;
  DELETE FROM access_grant g WHERE (g.form_id = of_form OR g.table_id = of_table)
    AND NOT EXISTS (SELECT 1 FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text, columns jsonb)
      WHERE n.action = g.action AND coalesce(n.role, n."groupId"::text, n."personId"::text, '') = coalesce(g.role, g.group_id::text, g.person_id::text, '') AND coalesce(n."where", '') = coalesce(g.where_rule, '')
        AND nullif(n.columns, 'null') IS NOT DISTINCT FROM to_jsonb(g.columns));
  INSERT INTO access_grant (form_id, table_id, action, role, group_id, person_id, where_rule, columns, by_id)
    SELECT of_form, of_table, n.action, n.role, n."groupId", n."personId", n."where", CASE WHEN nullif(n.columns, 'null') IS NULL THEN NULL ELSE ARRAY(SELECT jsonb_array_elements_text(n.columns)) END, slate.asking()
    FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text, columns jsonb) ON CONFLICT DO NOTHING;
  RETURN true;
END $$;
--> statement-breakpoint
DROP TRIGGER trail_right ON slate.access_grant;
--> statement-breakpoint
CREATE TRIGGER trail_right AFTER INSERT OR UPDATE OR DELETE ON slate.access_grant FOR EACH ROW EXECUTE FUNCTION slate.note_trail('right', 'action,role,group_id,person_id,where_rule,columns');
--> statement-breakpoint
DROP TRIGGER trail_column ON slate.designed_column;
--> statement-breakpoint
CREATE TRIGGER trail_column AFTER INSERT OR UPDATE OR DELETE ON slate.designed_column FOR EACH ROW EXECUTE FUNCTION slate.note_trail('column', 'key,label,kind,required,is_unique,decimals,unit,target_id,list_id,personal,default_value,formula,locked,retired,restricted');
--> statement-breakpoint
-- As before, and: which columns are restricted.
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'locale', w.locale, 'workdays', w.workdays, 'holidays', w.holidays, 'opens', w.opens, 'closes', w.closes) FROM workspace w),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'checks', t.checks, 'matches', t.matches, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'formula', c.formula, 'locked', c.locked, 'restricted', c.restricted, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL, 'outside', EXISTS (SELECT 1 FROM form_link l WHERE l.person_id = p.id)) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'writers', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', w.table_id, 'formId', w.form_id)) FROM table_form w WHERE w.state = 'allowed'), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
