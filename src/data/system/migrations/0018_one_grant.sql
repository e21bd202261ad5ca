DROP TABLE "slate"."table_grant" CASCADE;
--> statement-breakpoint
-- The groups a person is in, also by groups that are in groups.
CREATE FUNCTION slate.groups_of(who uuid) RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  WITH RECURSIVE inside AS (
    SELECT group_id FROM group_member WHERE person_id = who
    UNION SELECT m.group_id FROM group_member m JOIN inside i ON m.member_id = i.group_id)
  SELECT coalesce(array_agg(group_id), '{}') FROM inside
$$;
--> statement-breakpoint
-- Whether somebody who is still here is among those a grant is for.
CREATE FUNCTION slate.is_for(g slate.access_grant, who uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM person p WHERE p.id = who AND p.ended_at IS NULL
    AND (num_nonnulls(g.role, g.group_id, g.person_id) = 0 OR g.person_id = who OR g.role = ANY (p.roles) OR g.group_id = ANY (slate.groups_of(who))))
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.may(of_table uuid, wanted text) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM access_grant g WHERE g.table_id = of_table AND g.action = wanted AND g.where_rule IS NULL AND slate.is_for(g, slate.asking()))
$$;
--> statement-breakpoint
CREATE FUNCTION slate.may_form(of_form uuid, wanted text) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM access_grant g WHERE g.form_id = of_form AND g.action = wanted AND slate.is_for(g, slate.asking()))
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.administers() RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT EXISTS (SELECT 1 FROM person WHERE id = slate.asking() AND ended_at IS NULL AND 'administrator' = ANY (roles))
$$;
--> statement-breakpoint
-- Those who see all that is sent in a form see what was sent; a draft is its sender's alone.
ALTER POLICY submission_seen ON slate.submission USING (
  sender_id = (SELECT slate.asking())
  OR EXISTS (SELECT 1 FROM slate.ask a WHERE a.submission_id = id AND a.person_id = (SELECT slate.asking()))
  OR (sent_at IS NOT NULL AND slate.may_form(form_id, 'see-all')));
--> statement-breakpoint
-- A draft is begun by those who may fill the form.
ALTER POLICY submission_made ON slate.submission WITH CHECK (sender_id = (SELECT slate.asking()) AND state = 'draft' AND number IS NULL AND sent_at IS NULL AND record_id IS NULL AND step IS NULL
  AND slate.may_form(form_id, 'fill') AND EXISTS (SELECT 1 FROM slate.form_release r WHERE r.id = release_id AND r.form_id = submission.form_id));
--> statement-breakpoint
-- Those who watch anything are asked again what they may watch.
CREATE TRIGGER rights_told AFTER INSERT OR UPDATE OR DELETE ON slate.access_grant FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_rights();
--> statement-breakpoint
CREATE TRIGGER rights_told AFTER INSERT OR UPDATE OR DELETE ON slate.group_member FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_rights();
--> statement-breakpoint
CREATE TRIGGER left_told AFTER UPDATE OF ended_at ON slate.person FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_rights();
--> statement-breakpoint
DO $$
DECLARE what record;
BEGIN
  DROP TRIGGER catalogue_changed ON slate.person;
  DROP TRIGGER catalogue_counts ON slate.person;
  FOR what IN SELECT * FROM (VALUES ('access_grant', ''), ('person_group', ''), ('group_member', ''), ('person', ' OF name, email, place, roles, manager_id, deputy_id, ended_at')) AS t (name, columns)
  LOOP
    EXECUTE format('CREATE TRIGGER catalogue_changed AFTER INSERT OR DELETE OR UPDATE%s ON slate.%I FOR EACH STATEMENT EXECUTE FUNCTION slate.catalogue_changed()', what.columns, what.name);
    EXECUTE format('CREATE CONSTRAINT TRIGGER catalogue_counts AFTER INSERT OR DELETE OR UPDATE%s ON slate.%I DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION slate.catalogue_counts()', what.columns, what.name);
  END LOOP;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles, 'manager', p.manager_id, 'deputy', p.deputy_id, 'ended', p.ended_at IS NOT NULL) ORDER BY p.name) FROM person p), '[]'),
    'groups', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'label', g.label, 'people', coalesce((SELECT jsonb_agg(m.person_id) FROM group_member m WHERE m.group_id = g.id AND m.person_id IS NOT NULL), '[]'), 'groups', coalesce((SELECT jsonb_agg(m.member_id) FROM group_member m WHERE m.group_id = g.id AND m.member_id IS NOT NULL), '[]')) ORDER BY g.label) FROM person_group g), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'tableId', g.table_id, 'formId', g.form_id, 'role', g.role, 'groupId', g.group_id, 'personId', g.person_id, 'action', g.action, 'where', g.where_rule, 'columns', g.columns) ORDER BY g.at, g.id) FROM access_grant g), '[]'))
$$;
--> statement-breakpoint
-- What administrators do with people and groups. The rules are held here, whoever asks in whatever words.
CREATE FUNCTION slate.only_administrators() RETURNS void LANGUAGE plpgsql STABLE AS $$
BEGIN IF NOT slate.administers() THEN RAISE EXCEPTION 'for administrators' USING ERRCODE = 'TS010'; END IF; END $$;
--> statement-breakpoint
CREATE FUNCTION slate.put_person(who uuid, called text, mail text, at_place text, with_roles text[], under uuid, deputy uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF called !~ '\S' OR length(called) > 200 OR NOT with_roles <@ '{owner,steward,administrator,colleague}' THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO person AS p (id, name, email, email_verified, place, roles, manager_id, deputy_id) VALUES (who, called, lower(mail), true, at_place, with_roles, under, deputy)
    ON CONFLICT (id) DO UPDATE SET name = called, email = lower(mail), place = at_place, roles = with_roles, manager_id = under, deputy_id = deputy, updated_at = now();
  PERFORM slate.somebody_administers();
END $$;
--> statement-breakpoint
-- A workspace that nobody administers could be helped by nobody.
CREATE FUNCTION slate.somebody_administers() RETURNS void LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM person WHERE ended_at IS NULL AND 'administrator' = ANY (roles)) THEN RAISE EXCEPTION 'nobody would administer' USING ERRCODE = 'TS012'; END IF;
END $$;
--> statement-breakpoint
-- Somebody leaves: their sessions end at once, what they own is handed over, and what waits for them is asked of whoever takes over.
CREATE FUNCTION slate.end_access(who uuid, to_person uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF who = slate.asking() OR who = to_person THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = to_person AND ended_at IS NULL) THEN RAISE EXCEPTION 'nobody takes over' USING ERRCODE = 'TS010'; END IF;
  UPDATE person SET ended_at = now() WHERE id = who AND ended_at IS NULL;
  DELETE FROM session WHERE person_id = who;
  UPDATE account SET password = NULL WHERE person_id = who;
  UPDATE invitation SET expires_at = now() WHERE person_id = who AND used_at IS NULL;
  UPDATE form SET owner_id = to_person WHERE owner_id = who;
  INSERT INTO access_grant (table_id, form_id, person_id, action, where_rule, columns, by_id)
    SELECT table_id, form_id, to_person, action, where_rule, columns, slate.asking() FROM access_grant WHERE person_id = who ON CONFLICT DO NOTHING;
  DELETE FROM access_grant WHERE person_id = who;
  UPDATE person SET manager_id = CASE WHEN id = to_person THEN NULL ELSE to_person END WHERE manager_id = who;
  UPDATE person SET deputy_id = NULL WHERE deputy_id = who;
  PERFORM slate.somebody_administers();
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.begin_access(who uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN PERFORM slate.only_administrators(); UPDATE person SET ended_at = NULL WHERE id = who; END $$;
--> statement-breakpoint
-- An invitation makes those before it worthless.
CREATE FUNCTION slate.invite(who uuid, hash text, until timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF NOT EXISTS (SELECT 1 FROM person WHERE id = who AND ended_at IS NULL) THEN RAISE EXCEPTION 'not here' USING ERRCODE = 'TS010'; END IF;
  UPDATE invitation SET expires_at = now() WHERE person_id = who AND used_at IS NULL;
  INSERT INTO invitation (token_hash, person_id, by_id, expires_at) VALUES (hash, who, slate.asking(), until);
END $$;
--> statement-breakpoint
-- Whom an invitation is for; nothing when it is not good any more.
CREATE FUNCTION slate.invited(hash text) RETURNS TABLE (id uuid, name text, email text) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT p.id, p.name, p.email FROM invitation i JOIN person p ON p.id = i.person_id WHERE i.token_hash = hash AND i.used_at IS NULL AND i.expires_at > now() AND p.ended_at IS NULL
$$;
--> statement-breakpoint
-- Takes it up once: the password is theirs from now on, and sessions under an older one end.
CREATE FUNCTION slate.take_invitation(hash text, password_hash text) RETURNS uuid LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE who uuid;
BEGIN
  UPDATE invitation i SET used_at = now() FROM person p WHERE i.token_hash = hash AND i.used_at IS NULL AND i.expires_at > now() AND p.id = i.person_id AND p.ended_at IS NULL RETURNING p.id INTO who;
  IF who IS NULL THEN RETURN NULL; END IF;
  DELETE FROM session WHERE person_id = who;
  UPDATE account SET password = password_hash, updated_at = now() WHERE person_id = who AND provider_id = 'credential';
  IF NOT FOUND THEN INSERT INTO account (id, account_id, provider_id, person_id, password) VALUES (gen_random_uuid(), who::text, 'credential', who, password_hash); END IF;
  RETURN who;
END $$;
--> statement-breakpoint
-- A group with all who are in it. A circle of groups would hold everybody of it in each, so there is none.
CREATE FUNCTION slate.put_group(of_group uuid, called text, people uuid[], inside uuid[]) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  IF called !~ '\S' OR length(called) > 200 THEN RAISE EXCEPTION 'not like this' USING ERRCODE = 'TS010'; END IF;
  INSERT INTO person_group AS g (id, label) VALUES (of_group, called) ON CONFLICT (id) DO UPDATE SET label = called, updated_at = now();
  DELETE FROM group_member WHERE group_id = of_group;
  INSERT INTO group_member (group_id, person_id) SELECT of_group, one FROM unnest(people) AS one;
  INSERT INTO group_member (group_id, member_id) SELECT of_group, one FROM unnest(inside) AS one;
  IF EXISTS (WITH RECURSIVE below AS (SELECT member_id AS id FROM group_member WHERE group_id = of_group AND member_id IS NOT NULL
      UNION SELECT m.member_id FROM group_member m JOIN below b ON m.group_id = b.id WHERE m.member_id IS NOT NULL) SELECT 1 FROM below WHERE id = of_group) THEN
    RAISE EXCEPTION 'a group in itself' USING ERRCODE = 'TS013';
  END IF;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.drop_group(of_group uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN PERFORM slate.only_administrators(); DELETE FROM person_group WHERE id = of_group; END $$;
--> statement-breakpoint
-- Who may do what with one form or table, all of it at once. Those who design it say so, and administrators; nobody takes the last designer away.
CREATE FUNCTION slate.put_grants(of_form uuid, of_table uuid, given jsonb) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF num_nonnulls(of_form, of_table) <> 1 OR NOT (slate.administers() OR (of_form IS NOT NULL AND (slate.may_form(of_form, 'design') OR slate.owns_form(of_form))) OR (of_table IS NOT NULL AND slate.may(of_table, 'design'))) THEN
    RAISE EXCEPTION 'not theirs to say' USING ERRCODE = 'TS010';
  END IF;
  DELETE FROM access_grant g WHERE (g.form_id = of_form OR g.table_id = of_table)
    AND NOT EXISTS (SELECT 1 FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text)
      WHERE n.action = g.action AND coalesce(n.role, n."groupId"::text, n."personId"::text, '') = coalesce(g.role, g.group_id::text, g.person_id::text, '') AND coalesce(n."where", '') = coalesce(g.where_rule, ''));
  INSERT INTO access_grant (form_id, table_id, action, role, group_id, person_id, where_rule, columns, by_id)
    SELECT of_form, of_table, n.action, n.role, n."groupId", n."personId", n."where", CASE WHEN n.columns IS NULL THEN NULL ELSE ARRAY(SELECT jsonb_array_elements_text(n.columns)) END, slate.asking()
    FROM jsonb_to_recordset(given) AS n (action text, role text, "groupId" uuid, "personId" uuid, "where" text, columns jsonb) ON CONFLICT DO NOTHING;
END $$;
--> statement-breakpoint
-- A form is made with its maker's rights in it.
CREATE FUNCTION slate.form_is_makers() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  INSERT INTO access_grant (form_id, person_id, action, by_id) VALUES (NEW.id, NEW.owner_id, 'design', NEW.owner_id), (NEW.id, NEW.owner_id, 'see-all', NEW.owner_id) ON CONFLICT DO NOTHING;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER form_is_makers AFTER INSERT ON slate.form FOR EACH ROW EXECUTE FUNCTION slate.form_is_makers();
--> statement-breakpoint
-- A right that was taken away meanwhile lets nothing be sent; what was sent back is still finished.
CREATE FUNCTION slate.sent_by_right() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF NOT slate.may_form(NEW.form_id, 'fill') THEN RAISE EXCEPTION 'not theirs to fill' USING ERRCODE = 'TS010'; END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER sent_by_right BEFORE UPDATE OF state ON slate.submission FOR EACH ROW WHEN (OLD.state = 'draft' AND NEW.state NOT IN ('draft', 'rehearsing')) EXECUTE FUNCTION slate.sent_by_right();
