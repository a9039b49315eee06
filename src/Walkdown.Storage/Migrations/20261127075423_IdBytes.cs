using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <summary>
    /// Ids are kept as their 16 bytes. Rewritten where they lie, in the one transaction of the migration: a table made anew would lose
    /// what guards it. What is no id stays as it was found, and is told as damaged.
    /// </summary>
    public partial class IdBytes : Migration
    {
        private static readonly (string Table, string[] Columns)[] Ids =
        [
            ("Areas", ["Id", "JobId"]),
            ("Cabinets", ["Id", "FedFromId", "JobId"]),
            ("CardEvents", ["Id", "DeviceId", "SubjectId"]),
            ("Cards", ["DeviceId", "JobId"]),
            ("Channels", ["Id", "HeadId", "RecorderId"]),
            ("Devices", ["Id", "AreaId", "JobId"]),
            ("Drawings", ["JobId"]),
            ("Editions", ["Id"]),
            ("Erasures", ["Id", "JobId", "PictureId"]),
            ("FaultSteps", ["Id", "By", "FaultId"]),
            ("Faults", ["Id", "DeviceId", "FromReading", "RaisedBy", "SubjectId"]),
            ("Heads", ["Id", "DeviceId"]),
            ("Installations", ["Id", "DeviceId", "UnitId"]),
            ("InstrumentChecks", ["Id", "By", "InstrumentId", "JobId"]),
            ("Instruments", ["Id", "JobId"]),
            ("Jobs", ["Id"]),
            ("Journal", ["Id", "By", "DeviceId", "JobId"]),
            ("Observations", ["Id", "DeviceId", "JobId"]),
            ("People", ["Id", "JobId"]),
            ("Pictures", ["Id", "By", "DeviceId", "JobId"]),
            ("Ports", ["Id", "CabinetId"]),
            ("Readings", ["Id", "By", "DeviceId", "InstrumentId", "ObservationId", "SubjectId", "UnitId"]),
            ("RegisterChanges", ["Id", "By", "DeviceId", "JobId"]),
            ("Revisions", ["Id", "DeviceId", "JobId"]),
            ("RunEnds", ["Id", "DeviceId", "PortId", "RunId"]),
            ("Runs", ["Id", "JobId"]),
            ("Sources", ["Id", "CabinetId", "JobId"]),
            ("Units", ["Id", "JobId"]),
        ];

        private static readonly string[] Guarded =
        [
            "Readings",
            "CardEvents",
            "Faults",
            "FaultSteps",
            "Journal",
            "RegisterChanges",
            "InstrumentChecks",
            "Editions",
            "Pictures",
            "Erasures",
            "Revisions",
            "Observations",
        ];

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            const string text = "typeof({0}) = 'text' AND length({0}) = 36 AND length(unhex(replace({0}, '-', ''))) = 16";
            Rewrite(migrationBuilder, text, "unhex(replace({0}, '-', ''))", "TEXT", "BLOB");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            const string dashed =
                "substr(hex({0}), 1, 8) || '-' || substr(hex({0}), 9, 4) || '-' || substr(hex({0}), 13, 4) || '-' || "
                + "substr(hex({0}), 17, 4) || '-' || substr(hex({0}), 21)";
            Rewrite(migrationBuilder, "typeof({0}) = 'blob' AND length({0}) = 16", dashed, "BLOB", "TEXT");
        }

        private static void Rewrite(MigrationBuilder migrationBuilder, string where, string value, string from, string to)
        {
            // Rows point at each other; all of them are right when the transaction ends.
            migrationBuilder.Sql("PRAGMA defer_foreign_keys = ON;");
            foreach (var table in Guarded)
            foreach (var verb in new[] { "update", "delete" })
                migrationBuilder.Sql($"DROP TRIGGER IF EXISTS {table}_no_{verb};");
            migrationBuilder.Sql("PRAGMA writable_schema = ON;");
            foreach (var (table, columns) in Ids)
            {
                var set = columns.Select(c => $"\"{c}\" = {string.Format(CaseOf(where, value), $"\"{c}\"")}");
                migrationBuilder.Sql($"UPDATE \"{table}\" SET {string.Join(", ", set)};");
                foreach (var column in columns)
                    migrationBuilder.Sql(
                        $"UPDATE sqlite_master SET sql = replace(replace(sql, '\"{column}\" {from}', '\"{column}\" {to}'), "
                            + $"' {column} {from}', ' {column} {to}') WHERE type = 'table' AND name = '{table}';"
                    );
            }
            migrationBuilder.Sql("PRAGMA writable_schema = RESET;");
            foreach (var table in Guarded)
            foreach (var verb in new[] { "update", "delete" })
                migrationBuilder.Sql(
                    $"CREATE TRIGGER {table}_no_{verb} BEFORE {verb.ToUpperInvariant()} ON {table} "
                        + $"BEGIN SELECT RAISE(ABORT, '{table}: rows are only added'); END;"
                );
        }

        private static string CaseOf(string where, string value) => $"CASE WHEN {where} THEN {value} ELSE {{0}} END";
    }
}
