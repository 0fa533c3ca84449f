/**
 * The engine of everything that is looked over: a list is declared once, by the capability whose documents it shows
 * ({@link app.euthyna.server.lists.DeclaredList}), and is then filtered, sorted, paged, added up and exported like all
 * others. Start with {@link app.euthyna.server.lists.ListReader}. Uses {@code platform} alone; asks for others' rows in
 * the HQL of their own declarations.
 */
package app.euthyna.server.lists;
