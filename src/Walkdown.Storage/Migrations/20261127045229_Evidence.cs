using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <summary>Readings say what they were seen in; what is found need not be of a row, nor of a known device.</summary>
    public partial class Evidence : Migration
    {
        private const string Columns = "Id, JobId, DeviceId, Row, Source, Serial, RawJson, ValuesJson, At";

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "EvidenceJson", table: "Readings", type: "TEXT", nullable: true);

            // By hand: the table keeps its triggers, which a rebuild by the mapper would lose.
            migrationBuilder.Sql(
                """
                CREATE TABLE Observations_new (
                    Id TEXT NOT NULL CONSTRAINT PK_Observations PRIMARY KEY,
                    JobId TEXT NOT NULL,
                    DeviceId TEXT NULL,
                    Row TEXT NULL,
                    Source TEXT NOT NULL,
                    Serial TEXT NOT NULL,
                    RawJson TEXT NOT NULL,
                    FoundJson TEXT NULL,
                    ValuesJson TEXT NOT NULL,
                    At INTEGER NOT NULL);
                """
            );
            migrationBuilder.Sql($"INSERT INTO Observations_new ({Columns}) SELECT {Columns} FROM Observations;");
            migrationBuilder.Sql("DROP TABLE Observations;");
            migrationBuilder.Sql("ALTER TABLE Observations_new RENAME TO Observations;");
            migrationBuilder.Sql("CREATE INDEX IX_Observations_DeviceId ON Observations (DeviceId);");
            foreach (var verb in new[] { "update", "delete" })
                migrationBuilder.Sql(
                    $"CREATE TRIGGER Observations_no_{verb} BEFORE {verb.ToUpperInvariant()} ON Observations "
                        + "BEGIN SELECT RAISE(ABORT, 'Observations: rows are only added'); END;"
                );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.DropColumn(name: "EvidenceJson", table: "Readings");
    }
}
