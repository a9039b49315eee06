using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <summary>A job's sides of schools as data, and what of the work it covers; when a Card that waits can be gone on with.</summary>
    public partial class Schools : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(name: "ScopeJson", table: "Jobs", type: "TEXT", nullable: true);
            migrationBuilder.AddColumn<string>(name: "SidesJson", table: "Jobs", type: "TEXT", nullable: true);
            migrationBuilder.AddColumn<long>(name: "WaitsUntil", table: "Cards", type: "INTEGER", nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(name: "ScopeJson", table: "Jobs");
            migrationBuilder.DropColumn(name: "SidesJson", table: "Jobs");
            migrationBuilder.DropColumn(name: "WaitsUntil", table: "Cards");
        }
    }
}
