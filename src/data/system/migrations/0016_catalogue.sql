-- Tables, columns, lists, links, people, forms, their releases and who may do what are the catalogue. Its number changes with every change to it, in the
-- same transaction; every process keeps the catalogue of the number it has read. Numbers come from a sequence, so that one that was rolled back never
-- comes again for something else; the epoch tells one database from another.
CREATE TABLE slate.catalogue (only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one), epoch uuid NOT NULL DEFAULT gen_random_uuid(), number bigint NOT NULL);
--> statement-breakpoint
CREATE SEQUENCE slate.catalogue_number;
--> statement-breakpoint
INSERT INTO slate.catalogue (number) VALUES (nextval('slate.catalogue_number'));
--> statement-breakpoint
-- Within the transaction that changes it, every change makes a catalogue of its own, which nobody else sees or keeps.
CREATE FUNCTION slate.catalogue_changed() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM set_config('slate.catalogue_own', 'own:' || nextval('slate.catalogue_number'), true);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- The number itself is written when the transaction ends, so that a long one keeps nobody else from changing anything.
CREATE FUNCTION slate.catalogue_counts() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF coalesce(current_setting('slate.catalogue_counted', true), '') <> pg_current_xact_id()::text THEN
    UPDATE catalogue SET number = nextval('slate.catalogue_number');
    PERFORM set_config('slate.catalogue_counted', pg_current_xact_id()::text, true);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION slate.catalogue_at() RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT coalesce(nullif(current_setting('slate.catalogue_own', true), ''), (SELECT epoch || ':' || number FROM catalogue))
$$;
--> statement-breakpoint
DO $$
DECLARE what record;
BEGIN
  FOR what IN SELECT * FROM (VALUES
    ('designed_table', ''), ('designed_column', ''), ('choice_list', ''), ('table_grant', ''), ('table_form', ''), ('form_release', ''),
    ('link', ' OF mapping, source_id'), ('source', ' OF label'), ('form', ' OF key, owner_id'), ('person', ' OF name, email, place, roles')) AS t (name, columns)
  LOOP
    EXECUTE format('CREATE TRIGGER catalogue_changed AFTER INSERT OR DELETE OR UPDATE%s ON slate.%I FOR EACH STATEMENT EXECUTE FUNCTION slate.catalogue_changed()', what.columns, what.name);
    EXECUTE format('CREATE CONSTRAINT TRIGGER catalogue_counts AFTER INSERT OR DELETE OR UPDATE%s ON slate.%I DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION slate.catalogue_counts()', what.columns, what.name);
  END LOOP;
END $$;
--> statement-breakpoint
-- All of it in one look, so that it is of one moment.
CREATE FUNCTION slate.read_catalogue() RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
  SELECT jsonb_build_object(
    'number', slate.catalogue_at(),
    'tables', coalesce((SELECT jsonb_agg(jsonb_build_object('id', t.id, 'key', t.key, 'label', t.label, 'prefix', t.prefix, 'parent', t.parent_id, 'title', t.title, 'numbering', t.numbering, 'together', t.together, 'version', t.version) ORDER BY t.label) FROM designed_table t), '[]'),
    'columns', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', c.table_id, 'id', c.id, 'key', c.key, 'label', c.label, 'kind', c.kind, 'required', c.required, 'unique', c.is_unique, 'decimals', c.decimals, 'unit', c.unit, 'choices', c.choices, 'listId', c.list_id, 'target', c.target_id, 'description', c.description, 'personal', c.personal, 'example', c.example, 'default', c.default_value, 'retired', c.retired) ORDER BY c.position) FROM designed_column c), '[]'),
    'lists', coalesce((SELECT jsonb_agg(jsonb_build_object('id', l.id, 'label', l.label, 'description', l.description, 'choices', l.choices, 'version', l.version) ORDER BY l.label) FROM choice_list l), '[]'),
    'links', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', k.table_id, 'source', s.label, 'mapping', k.mapping)) FROM link k JOIN source s ON s.id = k.source_id), '[]'),
    'people', coalesce((SELECT jsonb_agg(jsonb_build_object('id', p.id, 'name', p.name, 'email', p.email, 'place', p.place, 'roles', p.roles) ORDER BY p.name) FROM person p), '[]'),
    'forms', coalesce((SELECT jsonb_agg(jsonb_build_object('id', f.id, 'key', f.key, 'ownerId', f.owner_id, 'live', (SELECT jsonb_build_object('id', r.id, 'number', r.number, 'formVersion', r.form_version) FROM form_release r WHERE r.form_id = f.id ORDER BY r.number DESC LIMIT 1)) ORDER BY f.key) FROM form f), '[]'),
    'grants', coalesce((SELECT jsonb_agg(jsonb_build_object('tableId', g.table_id, 'role', g.role, 'personId', g.person_id, 'action', g.action)) FROM table_grant g), '[]'))
$$;
