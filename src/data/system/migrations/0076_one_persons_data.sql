ALTER TABLE "slate"."designed_table" ADD COLUMN "duty" jsonb;--> statement-breakpoint
-- As before, and: for how long the records of a table must be kept.
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'locale', w.locale, 'workdays', w.workdays, 'holidays', w.holidays, 'opens', w.opens, 'closes', w.closes) FROM workspace w),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'checks', t.checks, 'matches', t.matches, 'duty', t.duty, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'formula', c.formula, 'locked', c.locked, 'restricted', c.restricted, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL, 'outside', EXISTS (SELECT 1 FROM form_link l WHERE l.person_id = p.id)) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'writers', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', w.table_id, 'formId', w.form_id)) FROM table_form w WHERE w.state = 'allowed'), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
--> statement-breakpoint
DROP TRIGGER trail_table ON slate.designed_table;
--> statement-breakpoint
CREATE TRIGGER trail_table AFTER INSERT OR UPDATE OR DELETE ON slate.designed_table FOR EACH ROW EXECUTE FUNCTION slate.note_trail('table', 'key,label,prefix,title,numbering,together,checks,matches,duty');
--> statement-breakpoint
-- That somebody's data was looked for, taken out or erased, and in which records: never what stood there.
CREATE FUNCTION slate.note_personal(about text, done text, of_what text) RETURNS void LANGUAGE sql VOLATILE AS $$
  INSERT INTO slate.trail (by_id, token_id, address, subject, verb, label) VALUES (slate.asking(), slate.token(), slate.coming_from(), about, done, left(of_what, 300))
$$;
--> statement-breakpoint
-- Only the program itself, in its own name.
REVOKE EXECUTE ON FUNCTION slate.note_personal(text, text, text) FROM PUBLIC;
