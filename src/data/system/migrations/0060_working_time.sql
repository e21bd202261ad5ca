-- When people work: hours of the day beside working days, public holidays of a place, and days one is closed besides.
ALTER TABLE "slate"."workspace" ADD COLUMN "opens" time DEFAULT '09:00' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "closes" time DEFAULT '17:00' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "holidays_of" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "closed" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;
--> statement-breakpoint
ALTER TABLE slate.workspace ADD CONSTRAINT workspace_open CHECK (opens < closes), ADD CONSTRAINT workspace_holidays_of CHECK (holidays_of ~ '^([A-Z]{2}(-[A-Z0-9]{1,4})?)?$'), ADD CONSTRAINT workspace_closed CHECK (jsonb_typeof(closed) = 'array');
--> statement-breakpoint
-- Changes what holds for the whole workspace, for administrators; false where somebody else changed it since it was looked at.
CREATE FUNCTION slate.put_workspace(given jsonb, seen integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE workspace SET name = given->>'name', zone = given->>'zone', currency = given->>'currency', opens = (given->>'opens')::time, closes = (given->>'closes')::time,
    workdays = ARRAY(SELECT jsonb_array_elements_text(given->'workdays')::smallint ORDER BY 1), holidays = ARRAY(SELECT jsonb_array_elements_text(given->'holidays')::date ORDER BY 1),
    holidays_of = given->>'holidaysOf', closed = given->'closed', version = version + 1 WHERE version = seen;
  RETURN FOUND;
END $$;
--> statement-breakpoint
-- As before, with the times of day people work.
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'locale', w.locale, 'workdays', w.workdays, 'holidays', w.holidays, 'opens', w.opens, 'closes', w.closes) FROM workspace w),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'checks', t.checks, 'matches', t.matches, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'formula', c.formula, 'locked', c.locked, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'writers', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', w.table_id, 'formId', w.form_id)) FROM table_form w WHERE w.state = 'allowed'), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
