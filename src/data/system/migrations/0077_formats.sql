CREATE TABLE "slate"."own_formats" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"formats" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "formats" jsonb DEFAULT '{"language":"en","dates":"words","numbers":"space-point","firstDay":1}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."form_outside" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "slate"."own_formats" ADD CONSTRAINT "own_formats_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
DROP TRIGGER trail_workspace ON slate.workspace;
--> statement-breakpoint
ALTER TABLE "slate"."workspace" DROP COLUMN "locale";
--> statement-breakpoint
CREATE TRIGGER trail_workspace AFTER UPDATE ON slate.workspace FOR EACH ROW EXECUTE FUNCTION slate.note_trail('workspace', 'name,zone,currency,formats,workdays,opens,closes,holidays_of,closed');
--> statement-breakpoint
ALTER TABLE slate.workspace ADD CONSTRAINT workspace_formats CHECK (jsonb_typeof(formats) = 'object' AND formats ?& ARRAY['language', 'dates', 'numbers', 'firstDay']);
--> statement-breakpoint
ALTER TABLE slate.form_outside ADD CONSTRAINT form_outside_language CHECK (language ~ '^[a-z]{2}$');
--> statement-breakpoint
-- How somebody reads days and numbers is no secret; each says it for themselves.
ALTER TABLE slate.own_formats ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_formats_read ON slate.own_formats FOR SELECT USING (true);
--> statement-breakpoint
CREATE POLICY own_formats_own ON slate.own_formats USING (person_id = (SELECT slate.asking())) WITH CHECK (person_id = (SELECT slate.asking()) AND jsonb_typeof(formats) = 'object');
--> statement-breakpoint
-- As before, with how days and numbers are written instead of a tag of a place.
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'formats', w.formats, 'workdays', w.workdays, 'holidays', w.holidays, 'opens', w.opens, 'closes', w.closes) FROM workspace w),
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
-- As before, with that.
CREATE OR REPLACE FUNCTION slate.put_workspace(given jsonb, seen integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE workspace SET name = given->>'name', zone = given->>'zone', currency = given->>'currency', formats = given->'formats', opens = (given->>'opens')::time, closes = (given->>'closes')::time,
    workdays = ARRAY(SELECT jsonb_array_elements_text(given->'workdays')::smallint ORDER BY 1), holidays = ARRAY(SELECT jsonb_array_elements_text(given->'holidays')::date ORDER BY 1),
    holidays_of = given->>'holidaysOf', closed = given->'closed', version = version + 1 WHERE version = seen;
  RETURN FOUND;
END $$;
--> statement-breakpoint
-- As before, and: in which language people outside meet a form.
DROP FUNCTION slate.put_outside(uuid, text, text, text[], text[], text, integer);
--> statement-breakpoint
CREATE FUNCTION slate.put_outside(of_form uuid, greeting text, parting text, open_lookups text[], from_sites text[], mails text, speaks text, drawn_on integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.designs_form(of_form) THEN RAISE EXCEPTION 'for those who design the form' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO form_outside AS o (form_id, welcome, thanks, lookups, origins, mail_to, language, said_by_id) SELECT of_form, greeting, parting, open_lookups, from_sites, mails, speaks, slate.asking() WHERE drawn_on = 0
    ON CONFLICT (form_id) DO NOTHING;
  IF drawn_on = 0 THEN RETURN FOUND; END IF;
  UPDATE form_outside SET welcome = greeting, thanks = parting, lookups = open_lookups, origins = from_sites, mail_to = mails, language = speaks, version = version + 1, said_by_id = slate.asking(), said_at = now() WHERE form_id = of_form AND version = drawn_on;
  RETURN FOUND;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.link_as_known(of_link uuid) RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object('link', l.id, 'secret', l.secret, 'form', f.id, 'formKey', f.key, 'person', jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place),
    'stopped', l.stopped_at IS NOT NULL, 'endsAt', l.ends_at, 'most', l.most, 'sent', l.sent, 'welcome', coalesce(o.welcome, ''), 'thanks', coalesce(o.thanks, ''), 'language', o.language, 'lookups', coalesce(to_jsonb(o.lookups), '[]'), 'origins', coalesce(to_jsonb(o.origins), '[]'))
  FROM form_link l JOIN form f ON f.id = l.form_id JOIN person p ON p.id = l.person_id LEFT JOIN form_outside o ON o.form_id = l.form_id WHERE l.id = of_link
$$;
--> statement-breakpoint
DROP TRIGGER trail_outside_words ON slate.form_outside;
--> statement-breakpoint
CREATE TRIGGER trail_outside_words AFTER INSERT OR UPDATE OR DELETE ON slate.form_outside FOR EACH ROW EXECUTE FUNCTION slate.note_trail('outside-words', 'welcome,thanks,lookups,origins,mail_to,language');
--> statement-breakpoint
-- What lists say of something sent is kept in its parts, and put in words for whoever reads; each is worked out anew.
UPDATE slate.submission SET digest = NULL WHERE digest IS NOT NULL;
