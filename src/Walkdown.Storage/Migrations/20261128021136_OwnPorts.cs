using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Walkdown.Storage.Migrations
{
    /// <inheritdoc />
    public partial class OwnPorts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "OfDeviceId",
                table: "RunEnds",
                type: "BLOB",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "OfDeviceId",
                table: "RunEnds");
        }
    }
}
