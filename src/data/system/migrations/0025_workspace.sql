-- What holds for the whole workspace is one row, and part of the catalogue.
CREATE TABLE "slate"."workspace" (
	"only_one" boolean PRIMARY KEY DEFAULT true NOT NULL CHECK ("only_one"),
	"name" text DEFAULT '' NOT NULL CHECK (length("name") <= 200),
	"zone" text DEFAULT 'Europe/London' NOT NULL,
	"currency" text DEFAULT '' NOT NULL CHECK ("currency" ~ '^([A-Z]{3})?$'),
	"locale" text DEFAULT 'en-GB' NOT NULL,
	"workdays" smallint[] DEFAULT '{1,2,3,4,5}' NOT NULL CHECK ("workdays" <@ '{1,2,3,4,5,6,7}'),
	"holidays" date[] DEFAULT '{}' NOT NULL
);
--> statement-breakpoint
INSERT INTO slate.workspace DEFAULT VALUES;
--> statement-breakpoint
CREATE FUNCTION slate.workspace_zone_is_known() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog, pg_temp AS $$
BEGIN
  PERFORM now() AT TIME ZONE NEW.zone;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER zone_is_known BEFORE INSERT OR UPDATE OF zone ON slate.workspace FOR EACH ROW EXECUTE FUNCTION slate.workspace_zone_is_known();
--> statement-breakpoint
CREATE TRIGGER catalogue_changed AFTER INSERT OR DELETE OR UPDATE ON slate.workspace FOR EACH STATEMENT EXECUTE FUNCTION slate.catalogue_changed();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER catalogue_counts AFTER INSERT OR DELETE OR UPDATE ON slate.workspace DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION slate.catalogue_counts();
--> statement-breakpoint
-- For the length of a transaction, times of day are those of the workspace.
CREATE FUNCTION slate.in_workspace_zone() RETURNS text LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN set_config('timezone', (SELECT zone FROM workspace), true);
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'locale', w.locale, 'workdays', w.workdays, 'holidays', w.holidays) FROM workspace w),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'writers', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', w.table_id, 'formId', w.form_id)) FROM table_form w WHERE w.state = 'allowed'), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
