using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Looks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "NetworkJson",
                table: "Jobs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Looks",
                columns: table => new
                {
                    Id = table.Column<byte[]>(type: "BLOB", nullable: false),
                    JobId = table.Column<byte[]>(type: "BLOB", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Of = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    FoundJson = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Looks", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Looks_JobId_At",
                table: "Looks",
                columns: new[] { "JobId", "At" });
            migrationBuilder.Sql("CREATE TRIGGER Looks_no_update BEFORE UPDATE ON Looks BEGIN SELECT RAISE(ABORT, 'Looks: rows are only added'); END;");
            migrationBuilder.Sql("CREATE TRIGGER Looks_no_delete BEFORE DELETE ON Looks BEGIN SELECT RAISE(ABORT, 'Looks: rows are only added'); END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Looks");

            migrationBuilder.DropColumn(
                name: "NetworkJson",
                table: "Jobs");
        }
    }
}
