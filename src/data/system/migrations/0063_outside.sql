CREATE TABLE "slate"."form_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"form_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"label" text NOT NULL,
	"secret" text NOT NULL,
	"made_by_id" uuid NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ends_at" timestamp with time zone,
	"most" integer,
	"sent" integer DEFAULT 0 NOT NULL,
	"stopped_at" timestamp with time zone,
	"stopped_by_id" uuid,
	CONSTRAINT "form_link_person_id_unique" UNIQUE("person_id"),
	CONSTRAINT "form_link_secret_unique" UNIQUE("secret"),
	CONSTRAINT "form_link_most" CHECK ("slate"."form_link"."most" > 0)
);
--> statement-breakpoint
CREATE TABLE "slate"."form_outside" (
	"form_id" uuid PRIMARY KEY NOT NULL,
	"welcome" text DEFAULT '' NOT NULL,
	"thanks" text DEFAULT '' NOT NULL,
	"lookups" text[] DEFAULT '{}' NOT NULL,
	"origins" text[] DEFAULT '{}' NOT NULL,
	"mail_to" text,
	"version" integer DEFAULT 1 NOT NULL,
	"said_by_id" uuid NOT NULL,
	"said_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "slate"."outside_mail" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"submission_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"address" text NOT NULL,
	"word" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"claimed_at" timestamp with time zone,
	CONSTRAINT "outside_mail_kind" CHECK ("slate"."outside_mail"."kind" IN ('sent', 'sent-back', 'kept', 'declined'))
);
--> statement-breakpoint
ALTER TABLE "slate"."file" ADD COLUMN "visit" uuid DEFAULT nullif(current_setting('slate.visit', true), '')::uuid;--> statement-breakpoint
ALTER TABLE "slate"."form_link" ADD CONSTRAINT "form_link_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_link" ADD CONSTRAINT "form_link_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_link" ADD CONSTRAINT "form_link_made_by_id_person_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_link" ADD CONSTRAINT "form_link_stopped_by_id_person_id_fk" FOREIGN KEY ("stopped_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_outside" ADD CONSTRAINT "form_outside_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "slate"."form"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."form_outside" ADD CONSTRAINT "form_outside_said_by_id_person_id_fk" FOREIGN KEY ("said_by_id") REFERENCES "slate"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "slate"."outside_mail" ADD CONSTRAINT "outside_mail_submission_id_submission_id_fk" FOREIGN KEY ("submission_id") REFERENCES "slate"."submission"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "form_link_form" ON "slate"."form_link" USING btree ("form_id");
--> statement-breakpoint
ALTER TABLE slate.form_outside ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE slate.form_link ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Links are said, made and stopped by those who design the form, and by nobody with a token.
CREATE FUNCTION slate.designs_form(of_form uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN slate.token() IS NULL AND (slate.owns_form(of_form) OR slate.administers() OR slate.may_form(of_form, 'design'));
END $$;
--> statement-breakpoint
CREATE POLICY outside_seen ON slate.form_outside FOR SELECT USING (slate.designs_form(form_id));
--> statement-breakpoint
CREATE POLICY link_seen ON slate.form_link FOR SELECT USING (slate.designs_form(form_id));
--> statement-breakpoint
-- Whoever comes by a link is one of many under one name. Each sees the one submission that is theirs, which is said beside, and without that none; null for everybody else.
CREATE FUNCTION slate.visit() RETURNS uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM form_link WHERE person_id = slate.asking()) THEN RETURN NULL; END IF;
  RETURN coalesce(nullif(current_setting('slate.visit', true), '')::uuid, '00000000-0000-0000-0000-000000000000'::uuid);
END $$;
--> statement-breakpoint
CREATE POLICY visit_reach ON slate.submission AS RESTRICTIVE FOR ALL USING ((SELECT slate.visit()) IS NULL OR id = (SELECT slate.visit()));
--> statement-breakpoint
CREATE POLICY visit_reach ON slate.file AS RESTRICTIVE FOR ALL USING ((SELECT slate.visit()) IS NULL OR visit = (SELECT slate.visit()));
--> statement-breakpoint
-- Whether whoever asks has come by a link to this form that is open. The last place is taken just before it is used.
CREATE FUNCTION slate.comes_by_link(of_form uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM form_link l WHERE l.person_id = slate.asking() AND l.form_id = of_form AND l.stopped_at IS NULL AND (l.ends_at IS NULL OR l.ends_at > now()) AND (l.most IS NULL OR l.sent <= l.most));
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may_form(of_form uuid, wanted text) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN (EXISTS (SELECT 1 FROM access_grant g WHERE g.form_id = of_form AND g.action = wanted AND slate.is_for(g, slate.asking())) OR wanted = 'fill' AND slate.comes_by_link(of_form)) AND slate.token_allows(NULL, of_form, wanted);
END $$;
--> statement-breakpoint
-- One more is sent by the link of whoever asks; false where none may be any more. Those who come at the same moment take turns.
CREATE FUNCTION slate.take_place() RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  UPDATE form_link SET sent = sent + 1 WHERE person_id = slate.asking() AND stopped_at IS NULL AND (ends_at IS NULL OR ends_at > now()) AND (most IS NULL OR sent < most);
  RETURN FOUND;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.put_outside(of_form uuid, greeting text, parting text, open_lookups text[], from_sites text[], mails text, drawn_on integer) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.designs_form(of_form) THEN RAISE EXCEPTION 'for those who design the form' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO form_outside AS o (form_id, welcome, thanks, lookups, origins, mail_to, said_by_id) SELECT of_form, greeting, parting, open_lookups, from_sites, mails, slate.asking() WHERE drawn_on = 0
    ON CONFLICT (form_id) DO NOTHING;
  IF drawn_on = 0 THEN RETURN FOUND; END IF;
  UPDATE form_outside SET welcome = greeting, thanks = parting, lookups = open_lookups, origins = from_sites, mail_to = mails, version = version + 1, said_by_id = slate.asking(), said_at = now() WHERE form_id = of_form AND version = drawn_on;
  RETURN FOUND;
END $$;
--> statement-breakpoint
-- Who sends by it is a person who has left before they came: in no list, asked by no step, in no group, granted nothing, and never signed in.
CREATE FUNCTION slate.make_link(link uuid, of_form uuid, who uuid, called text, in_address text, until timestamptz, at_most integer) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.designs_form(of_form) OR called !~ '\S' OR length(called) > 200 OR length(in_address) < 40 THEN RAISE EXCEPTION 'for those who design the form' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO person (id, name, email, email_verified, place, roles, manager_id, ended_at) VALUES (who, called, 'link-' || who || '@outside.invalid', false, 'from outside', '{}', slate.asking(), now());
  INSERT INTO form_link (id, form_id, person_id, label, secret, made_by_id, ends_at, most) VALUES (link, of_form, who, called, in_address, slate.asking(), until, at_most);
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.stop_link(of_form uuid, link uuid) RETURNS boolean LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.designs_form(of_form) THEN RAISE EXCEPTION 'for those who design the form' USING ERRCODE = 'TS010'; END IF;
  UPDATE form_link SET stopped_at = now(), stopped_by_id = slate.asking() WHERE id = link AND form_id = of_form AND stopped_at IS NULL;
  RETURN FOUND;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.link_as_known(of_link uuid) RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object('link', l.id, 'secret', l.secret, 'form', f.id, 'formKey', f.key, 'person', jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place),
    'stopped', l.stopped_at IS NOT NULL, 'endsAt', l.ends_at, 'most', l.most, 'sent', l.sent, 'welcome', coalesce(o.welcome, ''), 'thanks', coalesce(o.thanks, ''), 'lookups', coalesce(to_jsonb(o.lookups), '[]'), 'origins', coalesce(to_jsonb(o.origins), '[]'))
  FROM form_link l JOIN form f ON f.id = l.form_id JOIN person p ON p.id = l.person_id LEFT JOIN form_outside o ON o.form_id = l.form_id WHERE l.id = of_link
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION slate.link_as_known(uuid) FROM PUBLIC;
--> statement-breakpoint
-- What is at an address, for whoever has its secret.
CREATE FUNCTION slate.link_by(in_address text) RETURNS jsonb LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN RETURN (SELECT slate.link_as_known(l.id) FROM form_link l WHERE l.secret = in_address); END $$;
--> statement-breakpoint
-- By which link something was sent, for whoever has shown that it is theirs; null where it was sent by none.
CREATE FUNCTION slate.link_of(of_submission uuid) RETURNS jsonb LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN RETURN (SELECT slate.link_as_known(l.id) FROM submission s JOIN form_link l ON l.person_id = s.sender_id WHERE s.id = of_submission); END $$;
--> statement-breakpoint
-- Somebody outside has no account to look at: what becomes of what they sent is mailed to the address they gave in it, where the form says in which answer that is.
CREATE FUNCTION slate.mail_outside() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE s submission; mail text; what text;
BEGIN
  SELECT * INTO s FROM submission WHERE id = NEW.submission_id;
  what := CASE WHEN NEW.kind = 'send' THEN 'sent' WHEN NEW.kind = 'send-back' THEN 'sent-back' WHEN NEW.kind = 'decline' AND s.state = 'declined' THEN 'declined' WHEN NEW.kind = 'approve' AND s.state = 'kept' THEN 'kept' END;
  IF what IS NULL THEN RETURN NULL; END IF;
  SELECT s.sent_answers->'values'->>o.mail_to INTO mail FROM form_link l JOIN form_outside o ON o.form_id = l.form_id WHERE l.person_id = s.sender_id;
  IF mail ~ '^\S+@\S+$' THEN
    INSERT INTO outside_mail (submission_id, kind, address, word, at) VALUES (s.id, what, mail, CASE WHEN NEW.kind = 'send' THEN '' ELSE NEW.word END, NEW.at);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER mail_outside AFTER INSERT ON slate.submission_event FOR EACH ROW EXECUTE FUNCTION slate.mail_outside();
--> statement-breakpoint
-- Whether a form is open to people outside by any link; then so are the pictures in its texts.
CREATE FUNCTION slate.is_open_form(of_form uuid) RETURNS boolean LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN EXISTS (SELECT 1 FROM form_link l WHERE l.form_id = of_form AND l.stopped_at IS NULL AND (l.ends_at IS NULL OR l.ends_at > now()));
END $$;
--> statement-breakpoint
CREATE POLICY picture_open ON slate.form_picture FOR SELECT USING (slate.is_open_form(form_id));
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'workspace', (SELECT jsonb_build_object('name', w.name, 'zone', w.zone, 'currency', w.currency, 'locale', w.locale, 'workdays', w.workdays, 'holidays', w.holidays, 'opens', w.opens, 'closes', w.closes) FROM workspace w),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'checks', t.checks, 'matches', t.matches, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'formula', c.formula, 'locked', c.locked, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL, 'outside', EXISTS (SELECT 1 FROM form_link l WHERE l.person_id = p.id)) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'writers', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', w.table_id, 'formId', w.form_id)) FROM table_form w WHERE w.state = 'allowed'), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.follow_person() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE key text := (SELECT t.key FROM designed_table t WHERE t.id = '01900000-0000-7000-8000-000000000001');
BEGIN
  -- The person of a link has no role, and is nobody of ours.
  IF NEW.roles = '{}' THEN RETURN NULL; END IF;
  EXECUTE format($follow$
    INSERT INTO records.%1$I AS d (id, name, email, place, removed_at) VALUES ($1, $2, $3, nullif($4, ''), $5)
    ON CONFLICT (id) DO UPDATE SET name = excluded.name, email = excluded.email, place = excluded.place, removed_at = excluded.removed_at
      WHERE (d.name, d.email, d.place, d.removed_at) IS DISTINCT FROM (excluded.name, excluded.email, excluded.place, excluded.removed_at)
  $follow$, key) USING NEW.id, NEW.name, NEW.email, NEW.place, NEW.ended_at;
  RETURN NULL;
END $$;
