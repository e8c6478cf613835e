from demo.build import main

main()
